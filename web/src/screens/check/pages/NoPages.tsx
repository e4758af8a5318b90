import { Link } from "react-router";
import type { Pile } from "@/api/client";
import type { usePileSteps } from "@/api/pages";
import { LINK } from "@/ui/Button";
import { Empty } from "@/ui/States";
import { Problems, StopReading } from "./PileStrip";

/** Nothing is in the pile: how pages get here. */
export function NoPages({ pile, steps }: { pile: Pile; steps: ReturnType<typeof usePileSteps> }) {
  return (
    <>
      <Problems pile={pile} steps={steps} />
      <Empty title={pile.to_read > 0 ? "The first page is being read" : "No page has come back yet"}>
        {pile.to_read > 0 && <StopReading pile={pile} steps={steps} />}
        <p className="max-w-[68ch]">
          Drop scans or photographs of written sheets anywhere on this page, or choose them above: PDF, PNG,
          JPEG, HEIC or TIFF. Sheets printed under{" "}
          <Link className={LINK} to="/sheets">
            Sheets
          </Link>{" "}
          are known by their code; of any other picture of writing you say where its lines are and what it
          says. Nothing enters a child’s records before you agree.
        </p>
      </Empty>
    </>
  );
}

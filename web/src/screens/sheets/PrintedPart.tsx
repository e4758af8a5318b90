import { useState } from "react";
import type { PrintedSheet } from "@/api/client";
import { pdfOf, usePrintedSheets, usePrinting } from "@/api/sheets";
import { useClass } from "@/app/school";
import { Button, LINK, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { Tick } from "@/ui/Tick";

/** What was printed, latest first: print it again, and which copies came back. */
export function PrintedPart() {
  const { id } = useClass();
  const query = usePrintedSheets(id);
  const { again, back } = usePrinting(id);
  const error = again.error ?? back.error;
  return (
    <Loaded query={query} what="what was printed">
      {(sheets) =>
        sheets.length ? (
          <>
            {error && (
              <p role="alert" className="text-brick">
                {error.message}
              </p>
            )}
            <ul className="border-t-2 border-ink">
              {sheets.map((one) => (
                <Line
                  key={one.code}
                  one={one}
                  onAgain={() => again.mutate(one.code)}
                  onBack={(number, on) => back.mutate({ code: one.code, number, back: on })}
                />
              ))}
            </ul>
          </>
        ) : (
          <Empty title="Nothing was printed yet.">
            <LinkButton to="/sheets">Take a ready-made sheet</LinkButton>
          </Empty>
        )
      }
    </Loaded>
  );
}

const said = (day: string) =>
  new Date(`${day}T12:00:00`).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });

type LineProps = {
  one: PrintedSheet;
  onAgain: () => void;
  onBack: (number: number, on: boolean) => void;
};

function Line({ one, onAgain, onBack }: LineProps) {
  const [open, setOpen] = useState(false);
  const came = one.copies.filter((copy) => copy.back_on).length;
  const own = one.copies.some((copy) => copy.child);
  return (
    <li className="border-b border-hair py-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <b className="min-w-40">{one.name}</b>
        <span>{said(one.day)}</span>
        <span className="text-small text-graphite">
          sheet {one.code}, {one.pages} {one.pages === 1 ? "page" : "pages"}
          {own ? `, ${came} of ${one.copies.length} came back` : ""}
        </span>
        <span className="ml-auto flex items-center gap-3">
          {own && (
            <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
              Which came back
            </Button>
          )}
          <a className={LINK} href={pdfOf(one.code)} target="_blank" rel="noreferrer">
            Its pages
          </a>
          <Button onClick={onAgain}>Print again</Button>
        </span>
      </div>
      {open && (
        <ul className="mt-2 grid grid-cols-6 gap-x-4 gap-y-1 max-[1100px]:grid-cols-4 max-[700px]:grid-cols-2">
          {one.copies.map((copy) => (
            <li key={copy.number}>
              <Tick on={copy.back_on !== null} onTick={(on) => onBack(copy.number, on)}>
                {copy.child?.name ?? `copy ${copy.number}`}
              </Tick>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

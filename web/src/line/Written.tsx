import type { PaperCut, StrokeInk } from "@/api/client";
import { Ink } from "@/ink/Ink";
import { extent, type Page } from "@/ink/paths";
import { Paper } from "./Paper";
import { DROP, RISE } from "./Strip";

const AROUND = 34; // units of paper about the ink
const WAY = 0.4; // of the ink's weight: the line found, laid on the pencil

type Props = {
  strokes: StrokeInk[];
  paper: PaperCut | null;
  page: Page;
  colour?: string;
  weight?: number;
};

/** What a child wrote: ink from a tablet, or the piece of paper itself with the line that was found on it. */
export function Written({ strokes, paper, page, colour, weight = 6 }: Props) {
  const ink = (
    <Ink strokes={strokes} page={page} weight={paper ? weight * WAY : weight} {...(colour && { colour })} />
  );
  if (!paper) return ink;
  const [left, right] = extent(strokes, page);
  return (
    <>
      <Paper
        paper={paper}
        page={page}
        from={left - AROUND}
        to={right + AROUND}
        above={RISE - AROUND}
        below={DROP + AROUND}
      />
      {ink}
    </>
  );
}

import { type RefObject, useMemo } from "react";
import type { Ruling, StrokeInk, TextModel, Word } from "@/api/client";
import { CrossOut, Ink } from "@/ink/Ink";
import { extent, pageOf } from "@/ink/paths";
import type { Paper } from "@/ink/usePen";
import { Glyph, StartRing, widthOf } from "@/line/Letter";
import { DROP, Lines, RISE, XH } from "@/line/Strip";
import { useSize } from "@/ui/useSize";

/** What the paper of a word has to know of it: a word of the records, or the sheet of a tablet. */
export type PaperWord = Pick<Word, "text" | "lines" | "ruled" | "xh_mm" | "left_mm" | "boxes">;

const ROOM = 1.4; // a child's word may be this much longer than the model
const HEARD_UNITS = 1200; // room for a word that is heard and not seen

/** Lines as wide as the box, with room for a word longer than the model. */
export function useWordPaper(
  word: PaperWord,
  model: TextModel | null,
): [RefObject<HTMLDivElement | null>, Paper | null] {
  const [box, size] = useSize();
  const { lines, xh_mm, left_mm } = word;
  const wideMm = 2 * left_mm + (ROOM * (model ? widthOf(model) : HEARD_UNITS) * xh_mm) / XH;
  const paper = useMemo(() => {
    if (!size?.width) return null;
    const tall = lines.drop - lines.rise;
    const pxPerMm = Math.min(size.width / wideMm, size.height / (tall * 1.15));
    const topMm = (lines.rise + lines.drop) / 2 - size.height / pxPerMm / 2;
    return { pxPerMm, leftMm: 0, topMm };
  }, [size, lines, wideMm]);
  return [box, paper];
}

/** What is to be written, as the class writes it. */
export const Example = ({ model, ruling }: { model: TextModel; ruling?: Ruling }) => (
  <svg
    viewBox={`-60 ${RISE - 30} ${Math.max(1800, widthOf(model) + 160)} ${DROP - RISE + 60}`}
    preserveAspectRatio="xMinYMid meet"
    className="h-40 w-full shrink-0 overflow-visible px-10"
    role="img"
    aria-label={`${model.char}, the model`}
  >
    <Lines
      from={-60}
      to={60 * XH}
      ruling={ruling}
      texts={[{ x: -(model.bounds[0] ?? 0), boxed: model.boxed }]}
    />
    <Glyph letter={model} x={-(model.bounds[0] ?? 0)} weight={9} />
  </svg>
);

type SheetProps = {
  word: PaperWord;
  model: TextModel | null;
  paper: Paper;
  strokes: StrokeInk[];
  crossedOut?: boolean;
};

/** The paper: lines from edge to edge, where to begin, and what has been written. */
export function WordSheet({ word, model, paper, strokes, crossedOut = false }: SheetProps) {
  const page = pageOf(word.lines);
  const [from, to] = extent(strokes, page);
  const scale = paper.pxPerMm / page.unitsPerMm;
  const first = model?.strokes[0];
  const at = word.left_mm * page.unitsPerMm;
  return (
    <svg
      className="absolute inset-0 h-full w-full"
      role="img"
      aria-label={word.boxes ? "Lines to write on" : `Lines for ${word.text}`}
    >
      <g transform={`scale(${scale}) translate(0 ${-page.y(paper.topMm)})`}>
        <Lines
          from={0}
          to={40 * XH}
          ruling={word.ruled}
          texts={model ? [{ x: at, boxed: model.boxed }] : []}
        />
        {strokes.length === 0 && first && !word.boxes && (
          <g transform={`translate(${at} 0)`}>
            <StartRing stroke={first} number={1} />
          </g>
        )}
        <Ink
          strokes={strokes}
          page={page}
          weight={7}
          colour={crossedOut ? "var(--color-faint)" : "var(--color-ink)"}
        />
        {crossedOut && <CrossOut from={from} to={to} />}
      </g>
    </svg>
  );
}

import clsx from "clsx";
import type { ReactNode } from "react";
import type { DrawnWord, LetterDrawing } from "@/api/client";
import { Glyph, widthOf } from "@/line/Letter";
import { Lines } from "@/line/Strip";

export const TOP = -230;
export const TALL = 350;
const FAR = 6000;
export const LEFT = 60;

/** Height of a line of words, pixels, and how many units of drawing are one pixel then. */
export const LINE_PX = 88;
const UNITS_A_PX = TALL / LINE_PX;
const LEAST_PX = 132;

export const widthPx = (drawing: LetterDrawing) =>
  Math.max(LEAST_PX, Math.ceil((widthOf(drawing) + 3 * LEFT) / UNITS_A_PX));

type StripProps = { drawing?: LetterDrawing; children?: ReactNode; height?: number; className?: string };

/** A piece of the line, as wide as there is room, with a word at its left. */
export function LinePiece({ drawing, children, height = LINE_PX, className = "block" }: StripProps) {
  return (
    <svg
      aria-hidden="true"
      width="100%"
      height={height}
      viewBox={`0 ${TOP} ${FAR} ${TALL}`}
      preserveAspectRatio="xMinYMid slice"
      className={className}
    >
      <Lines from={0} to={FAR} />
      {drawing && <Glyph letter={drawing} x={LEFT - (drawing.bounds[0] ?? 0)} weight={10} />}
      {children}
    </svg>
  );
}

type Props<W extends DrawnWord> = {
  words: W[];
  label: string;
  /** What stands under a word. */
  under: (word: W) => ReactNode;
  chosen: ReadonlySet<string>;
  onChoose: (word: W) => void;
  /** What pressing a word does: "nest, 18 of 18". */
  named: (word: W) => string;
};

/** Words side by side on the line, each to be pressed. */
export function WordsOnLine<W extends DrawnWord>({ words, label, under, chosen, onChoose, named }: Props<W>) {
  return (
    <ul aria-label={label} className="flex flex-wrap gap-y-3">
      {words.map((word) => {
        const is = chosen.has(word.text);
        return (
          <li key={word.text} style={{ minWidth: widthPx(word.drawing) }} className="flex-1">
            <button
              type="button"
              aria-pressed={is}
              aria-label={named(word)}
              onClick={() => onChoose(word)}
              className={clsx("block w-full text-left", is && "bg-ochre/45")}
            >
              <LinePiece drawing={word.drawing} />
              <span className="block pb-1 pl-4 text-small text-graphite">{under(word)}</span>
            </button>
          </li>
        );
      })}
      {/* the last line goes on to the edge */}
      <li aria-hidden="true" className="flex-[1000]">
        <LinePiece />
      </li>
    </ul>
  );
}

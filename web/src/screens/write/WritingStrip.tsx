import { type RefObject, useMemo } from "react";
import type { Row, StrokeInk, Support, TextModel } from "@/api/client";
import { CrossOut, Ink } from "@/ink/Ink";
import { extent, pageOf } from "@/ink/paths";
import type { Paper } from "@/ink/usePen";
import { Chevrons, Glyph, StartRing } from "@/line/Letter";
import { Lines } from "@/line/Strip";
import { useSize } from "@/ui/useSize";

/** An attempt on the paper, whether the records have it yet or not. */
export type Written = {
  key: string;
  strokes: StrokeInk[];
  crossedOut: boolean;
  /** Whether it has reached the records: only then is it chosen as the best. */
  kept: boolean;
  best: boolean;
};

/** What the paper of a row has to know of it: a row of the records, or the sheet of a tablet. */
export type PaperRow = Pick<
  Row,
  "letter" | "lines" | "ruled" | "slot_mm" | "letter_left_mm" | "support" | "layered"
> & { hand: string };

const VISIBLE_SLOTS = 6;
const BEGUN_SHARE = 0.4; // how much of a letter is given when the child finishes it

/** Slots for writing that are seen at once. */
const slotsOf = (written: number, done: boolean) => (done ? Math.max(VISIBLE_SLOTS, written) : VISIBLE_SLOTS);

/**
 * How the page lies in the box on screen: one slot for the model at the left (and one at the right
 * for a left hand), six for writing; once those are full the paper moves along. When the row is
 * done the whole of it is shown.
 */
export function usePaper(
  row: PaperRow,
  current: number,
  done: boolean,
): [RefObject<HTMLDivElement | null>, Paper | null] {
  const [box, size] = useSize();
  const { slot_mm, lines, hand, layered } = row;
  const paper = useMemo(() => {
    if (!size || size.width === 0) return null;
    const visible = layered && !done ? 1 : slotsOf(current, done);
    const slots = visible + (hand === "left" ? 2 : 1);
    const tall = lines.drop - lines.rise;
    const pxPerMm = Math.min(size.width / (slots * slot_mm), size.height / (tall * 1.2));
    const along = done || layered ? 0 : Math.max(0, current - VISIBLE_SLOTS + 1);
    const topMm = (lines.rise + lines.drop) / 2 - size.height / pxPerMm / 2;
    return { pxPerMm, leftMm: (along - 1) * slot_mm, topMm };
  }, [size, slot_mm, lines, hand, layered, current, done]);
  return [box, paper];
}

// quiet inks, one after another, for letters on top of one another
const INKS = [
  ...["#1b2a44", "#a33a2a", "#2f6f4f", "#7a5a9a", "#9a6c0a"],
  ...["#2c6f95", "#8a3c6a", "#5b6b1f", "#6e4a33", "#4a4a8c"],
];
const inkOf = (row: PaperRow, at: number) =>
  row.layered ? (INKS[at % INKS.length] ?? "") : "var(--color-ink)";

type Props = {
  row: PaperRow;
  letter: TextModel;
  written: Written[];
  /** How the next slots are helped; none when the row is done. */
  toCome: Support[];
  paper: Paper;
  /** Given when the row is done: the child touches the best one. */
  onPick?: ((key: string) => void) | undefined;
};

/** The paper itself: lines from edge to edge, the model, what has been written, and what the next slot offers. */
export function WritingStrip({ row, letter, written, toCome, paper, onPick }: Props) {
  const page = pageOf(row.lines);
  const onTop = row.layered && toCome.length > 0; // when the row is done its letters stand side by side
  const toUnits = (mm: number) => mm * page.unitsPerMm;
  const slot = toUnits(row.slot_mm);
  const left = toUnits(paper.leftMm);
  const along = left + slot; // where the first visible slot begins
  const scale = paper.pxPerMm / page.unitsPerMm;
  const modelAt = (slotLeft: number) => slotLeft + toUnits(row.letter_left_mm);
  const top = page.y(paper.topMm);
  const edge = left + 40 * slot;
  const texts = row.support.map((_, i) => ({ x: modelAt(slot * i), boxed: letter.boxed }));
  return (
    <svg
      className="absolute inset-0 h-full w-full"
      role="img"
      aria-label={`Row of ${row.letter}, ${written.length} written`}
    >
      <g transform={`scale(${scale}) translate(${-left} ${-top})`}>
        <Lines from={left} to={edge} ruling={row.ruled} texts={texts} />
        {written.map((one, i) =>
          slot * (i + 1) <= along ? null : (
            <g key={one.key} transform={onTop ? `translate(${-slot * i} 0)` : undefined}>
              {onPick && one.kept && !one.crossedOut && (
                <Pick
                  number={i + 1}
                  x={slot * i}
                  width={slot}
                  chosen={one.best}
                  onPick={() => onPick(one.key)}
                />
              )}
              <g pointerEvents="none" /* whoever touches the ink means the letter */>
                <Ink
                  strokes={one.strokes}
                  page={page}
                  weight={7}
                  colour={one.crossedOut ? "var(--color-faint)" : inkOf(row, i)}
                />
                {one.crossedOut && (
                  <CrossOut from={extent(one.strokes, page)[0]} to={extent(one.strokes, page)[1]} />
                )}
              </g>
            </g>
          ),
        )}
        {(onTop ? toCome.slice(0, 1) : toCome).map((support, i) => (
          <Offer
            // biome-ignore lint/suspicious/noArrayIndexKey: slots are known by their place
            key={written.length + i}
            letter={letter}
            support={support}
            x={modelAt(onTop ? 0 : slot * (written.length + i))}
            next={i === 0}
          />
        ))}
        <Model letter={letter} x={modelAt(left)} />
        {row.hand === "left" && (
          <Model
            letter={letter}
            x={modelAt(left + slot * ((onTop ? 1 : slotsOf(written.length, !toCome.length)) + 1))}
          />
        )}
      </g>
    </svg>
  );
}

type PickProps = { number: number; x: number; width: number; chosen: boolean; onPick: () => void };

/** The place of an attempt that can be chosen as the best: the letter itself is what is touched. */
const Pick = ({ number, x, width, chosen, onPick }: PickProps) => (
  <rect
    role="radio"
    tabIndex={0}
    aria-checked={chosen}
    aria-label={`Number ${number}`}
    x={x + 4}
    y={-225}
    width={width - 8}
    height={345}
    rx={5}
    className="cursor-pointer"
    fill={chosen ? "var(--color-ochre)" : "transparent"}
    stroke={chosen ? "var(--color-ink)" : "var(--color-pale)"}
    strokeWidth={1.5}
    onClick={onPick}
    onKeyDown={(event) => {
      if (event.key === "Enter" || event.key === " ") {
        event.preventDefault();
        onPick();
      }
    }}
  />
);

function Model({ letter, x }: { letter: TextModel; x: number }) {
  return (
    <g>
      <Glyph letter={letter} x={x} weight={9} />
      <g transform={`translate(${x} 0)`}>
        {letter.strokes.map((stroke, i) => (
          <g key={stroke.path}>
            <Chevrons stroke={stroke} onInk="var(--color-paper)" />
            <StartRing stroke={stroke} number={i + 1} />
          </g>
        ))}
      </g>
    </g>
  );
}

export type OfferProps = { letter: TextModel; support: Support; x: number; next: boolean };

/** What stands in a slot before the pen comes: the letter to trace, its beginning, or only where to start. */
export function Offer({ letter, support, x, next }: OfferProps) {
  const [ringX = 0, ringY = 0] = letter.strokes[0]?.ring ?? [];
  const weight = next ? 15 : 9;
  return (
    <g opacity={next ? 1 : 0.6}>
      {support === "trace" && <Glyph letter={letter} x={x} weight={weight} colour="var(--color-pale)" />}
      {support === "finish" && (
        <path
          d={beginning(letter)}
          transform={`translate(${x} 0)`}
          fill="none"
          stroke="var(--color-pale)"
          strokeWidth={weight}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      )}
      {support !== "alone" && (
        <circle
          cx={x + ringX}
          cy={ringY}
          r={next ? 9 : 7}
          fill="none"
          stroke={next ? "var(--color-line)" : "var(--color-faint)"}
          strokeWidth={next ? 2.5 : 2}
        />
      )}
    </g>
  );
}

function beginning(letter: TextModel): string {
  const until = letter.duration_ms * BEGUN_SHARE;
  const stroke = letter.strokes[0];
  const points = (stroke?.points ?? []).filter((_, i) => (stroke?.t_ms[i] ?? 0) <= until);
  return points.length ? `M ${points.map((p) => p.join(" ")).join(" L ")}` : "";
}

import type { StrokeInk } from "@/api/client";
import { type Page, strokePath } from "./paths";

type Props = {
  strokes: StrokeInk[];
  page: Page;
  colour?: string;
  weight?: number;
  /** Show only what had been written by this time, ms since the first point. */
  upTo?: number;
};

/** A child's ink as written. */
export function Ink({ strokes, page, colour = "var(--color-ink)", weight = 6, upTo }: Props) {
  const begin = strokes[0]?.t?.[0] ?? 0;
  const until = upTo === undefined ? Number.POSITIVE_INFINITY : begin + upTo;
  return (
    <g fill="none" stroke={colour} strokeWidth={weight} strokeLinecap="round" strokeLinejoin="round">
      {strokes.map((stroke, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a stroke is known by its place in the writing
        <path key={i} d={strokePath(stroke, page, until)} />
      ))}
    </g>
  );
}

/** Two strokes of the pen through an attempt that the child crossed out. */
export function CrossOut({ from, to }: { from: number; to: number }) {
  const a = from - 12;
  const b = to + 12;
  return (
    <g stroke="var(--color-mid)" strokeWidth={3.5} strokeLinecap="round">
      <path d={`M ${a} -118 L ${b} 18`} />
      <path d={`M ${b} -112 L ${a} 12`} />
    </g>
  );
}

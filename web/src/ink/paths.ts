import type { Lines, StrokeInk } from "@/api/client";
import { XH } from "@/line/Strip";

/** Turns page millimetres into strip units: base line at 0, one xh = 100. */
export type Page = { x: (mm: number) => number; y: (mm: number) => number; unitsPerMm: number };

export function pageOf(lines: Lines): Page {
  const unitsPerMm = XH / (lines.base - lines.mid);
  return { unitsPerMm, x: (mm) => mm * unitsPerMm, y: (mm) => (mm - lines.base) * unitsPerMm };
}

const spot = (page: Page, x: number, y: number) => `${page.x(x).toFixed(1)} ${page.y(y).toFixed(1)}`;

/** Path data of one stroke; a tap becomes a short dash so that it can be seen. */
export function strokePath(stroke: StrokeInk, page: Page, upTo = Number.POSITIVE_INFINITY): string {
  const points: string[] = [];
  stroke.x.forEach((x, i) => {
    if ((stroke.t?.[i] ?? 0) <= upTo) points.push(spot(page, x, stroke.y[i] ?? 0));
  });
  if (points.length === 0) return "";
  if (points.length === 1) points.push(points[0] as string);
  return `M ${points.join(" L ")}`;
}

const APART = 2.5; // times the usual step: further apart than this is another piece of ink

/** Path data through points; where they leap, the path begins anew, and a lone point becomes a dot. */
export function pointsPath(points: number[][], page: Page): string {
  const steps = points.slice(1).map((point, i) => {
    const [x = 0, y = 0] = point;
    const [px = 0, py = 0] = points[i] ?? point;
    return Math.hypot(x - px, y - py);
  });
  const usual = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
  return points
    .map(([x = 0, y = 0], i) => {
      const begins = i === 0 || (steps[i - 1] ?? 0) > APART * usual;
      const at = spot(page, x, y);
      return begins ? `M ${at} L ${at}` : `L ${at}`;
    })
    .join(" ");
}

/** Left and right end of some ink, units. */
/** Ink so far to the right, mm. */
export const moved = (strokes: StrokeInk[], byMm: number): StrokeInk[] =>
  byMm ? strokes.map((stroke) => ({ ...stroke, x: stroke.x.map((x) => x + byMm) })) : strokes;

export function extent(strokes: StrokeInk[], page: Page): [number, number] {
  const all = strokes.flatMap((stroke) => stroke.x);
  return [page.x(Math.min(...all)), page.x(Math.max(...all))];
}

export const timesOf = (strokes: StrokeInk[]) => strokes.flatMap((stroke) => stroke.t ?? []);

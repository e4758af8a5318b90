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

export const pointsPath = (points: number[][], page: Page) =>
  points.length === 0 ? "" : `M ${points.map(([x = 0, y = 0]) => spot(page, x, y)).join(" L ")}`;

/** Left and right end of some ink, units. */
export function extent(strokes: StrokeInk[], page: Page): [number, number] {
  const all = strokes.flatMap((stroke) => stroke.x);
  return [page.x(Math.min(...all)), page.x(Math.max(...all))];
}

export const timesOf = (strokes: StrokeInk[]) => strokes.flatMap((stroke) => stroke.t ?? []);

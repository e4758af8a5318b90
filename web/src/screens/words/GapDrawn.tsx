import type { Gap } from "@/api/client";
import { Glyph, INK, widthOf } from "@/line/Letter";
import { LEFT, LinePiece } from "./OnLine";

const OPEN = 150; // room left for what is missing, units
const BESIDE = 34;

/** A word in the class's hand with one sound left open, as a short stroke on the base line. */
export function GapDrawn({ gap }: { gap: Gap }) {
  const { before: first, after: second } = gap;
  const gapAt = LEFT + (first ? widthOf(first) + BESIDE : 0);
  const room = OPEN * Math.max(1, Math.max(...gap.options.map((one) => one.replace("_", "").length)) * 0.75);
  return (
    <LinePiece>
      {first && <Glyph letter={first} x={LEFT - (first.bounds[0] ?? 0)} weight={10} />}
      <line x1={gapAt} x2={gapAt + room} y1={0} y2={0} stroke={INK} strokeWidth={10} />
      {second && <Glyph letter={second} x={gapAt + room + BESIDE - (second.bounds[0] ?? 0)} weight={10} />}
    </LinePiece>
  );
}

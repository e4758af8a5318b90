import { memo } from "react";
import type { TextModel } from "@/api/client";
import { Chevrons, Hops, INK, PALE, StartRing } from "@/line/Letter";

type Stroke = TextModel["strokes"][number];

const WEIGHT = 11;
const MID = "var(--color-mid)";

/** Where the pen is at a time: on a stroke, or hopping between two. */
export function penAt(letter: TextModel, at: number): { x: number; y: number; down: boolean } {
  let from: [number, number] | null = null;
  for (const stroke of letter.strokes) {
    const first = stroke.t_ms[0] ?? 0;
    const [sx = 0, sy = 0] = stroke.points[0] ?? [];
    if (at < first && from) {
      const share = 1 - (first - at) / letter.hop_ms;
      const rise = Math.sin(Math.PI * share) * 18;
      return { x: from[0] + (sx - from[0]) * share, y: from[1] + (sy - from[1]) * share - rise, down: false };
    }
    const last = stroke.t_ms.at(-1) ?? 0;
    if (at <= last) {
      const i = Math.max(
        0,
        stroke.t_ms.findIndex((t) => t >= at),
      );
      const [x = 0, y = 0] = stroke.points[i] ?? [];
      return { x, y, down: true };
    }
    const [ex = 0, ey = 0] = stroke.points.at(-1) ?? [];
    from = [ex, ey];
  }
  return { x: from?.[0] ?? 0, y: from?.[1] ?? 0, down: true };
}

const written = (stroke: Stroke, from: number, at: number) => {
  const points = stroke.points.filter((_, i) => {
    const t = stroke.t_ms[i] ?? 0;
    return t >= from && t <= at;
  });
  return points.length < 2 ? "" : `M ${points.map((p) => p.join(" ")).join(" L ")}`;
};

/** A letter in the making: done in mid ink, the move being made in full ink, what is to come pale. */
export function MovingLetter(props: {
  letter: TextModel;
  at: number;
  x: number;
  /** Held from the left, for a left-handed writer. */
  leftHand?: boolean;
  /** The whole strip is shown in a mirror: numbers are turned back. */
  mirrored?: boolean;
  /** Rings, chevrons and hops beside the ink. */
  marks?: boolean;
}) {
  const { letter, at, x, leftHand = false, mirrored = false, marks = true } = props;
  const finished = at >= letter.duration_ms;
  const pen = penAt(letter, at);
  const line = {
    fill: "none",
    strokeWidth: WEIGHT,
    strokeLinecap: "round",
    strokeLinejoin: "round",
  } as const;
  return (
    <g transform={`translate(${x} 0)`}>
      {letter.strokes.map((stroke) => (
        <path key={stroke.path} d={stroke.path} stroke={finished ? INK : PALE} {...line} />
      ))}
      {!finished &&
        letter.strokes.map((stroke) => {
          const move = stroke.moves.find((one) => at >= one.from_ms && at <= one.to_ms);
          return (
            <g key={stroke.path} {...line}>
              <path d={written(stroke, 0, at)} stroke={MID} />
              {move && <path d={written(stroke, move.from_ms, at)} stroke={INK} />}
            </g>
          );
        })}
      {marks && <Marks letter={letter} finished={finished} mirrored={mirrored} />}
      {!finished && <Nib x={pen.x} y={pen.y} down={pen.down} leftHand={leftHand} />}
    </g>
  );
}

type MarksProps = { letter: TextModel; finished: boolean; mirrored: boolean };

/** Chevrons, hops and start rings. They do not move while the pen does. */
const Marks = memo(({ letter, finished, mirrored }: MarksProps) => (
  <g>
    {letter.strokes.map((stroke) => (
      <Chevrons
        key={stroke.path}
        stroke={stroke}
        onInk={finished ? "var(--color-paper)" : "var(--color-line)"}
      />
    ))}
    <Hops letter={letter} />
    {letter.strokes.map((stroke, i) => (
      <StartRing key={stroke.path} stroke={stroke} number={i + 1} mirrored={mirrored} />
    ))}
  </g>
));

type NibProps = { x: number; y: number; down: boolean; leftHand: boolean };

/** Tip of the pen as the hand holds it; its point is filled while it touches the paper. */
const Nib = ({ x, y, down, leftHand }: NibProps) => (
  <g
    transform={`translate(${x} ${y}) scale(${leftHand ? -1 : 1} 1)`}
    stroke="var(--color-ink)"
    strokeWidth={1.6}
    strokeLinejoin="round"
  >
    <path d="M 7 -14 L 40 -62 L 52 -54 L 17 -8 Z" fill="var(--color-sheet)" fillOpacity={0.85} />
    <path d="M 0 0 L 7 -14 L 17 -8 Z" fill={down ? "var(--color-ink)" : "var(--color-sheet)"} />
  </g>
);

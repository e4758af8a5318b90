import type { ReactNode } from "react";
import type { Ruling } from "@/api/client";
import { useClass, useRuling, useRulingIfAny } from "@/app/school";

/** Drawing units in one xh; the base line is y = 0 and y grows downwards, as the server draws letters. */
export const XH = 100;
export const RISE = -2 * XH;
export const MID = -XH;
export const DROP = XH;

type Props = {
  /** Width in units. */
  width: number;
  /** Clear paper above the rise line and below the drop line, units. */
  above?: number;
  below?: number;
  /** Says what stands on the lines. */
  label: string;
  children?: ReactNode;
  className?: string | undefined;
  /** Where letters stand: see `Lines`. */
  words?: [number, number][][];
  /** Names of the lines at the left end. */
  named?: boolean;
  /** `group` when the strip holds controls, else one picture. */
  role?: "img" | "group";
};

/** The lines of the class's ruling at true proportion. */
export function Strip({
  width,
  above = 30,
  below = 30,
  label,
  children,
  className,
  named,
  words = [],
  role = "img",
}: Props) {
  return (
    <svg
      role={role}
      aria-label={label}
      className={className}
      viewBox={`0 ${RISE - above} ${width} ${DROP - RISE + above + below}`}
      preserveAspectRatio="xMinYMid meet"
    >
      <Lines from={0} to={width} words={words} />
      {named && <LineNames />}
      {children}
    </svg>
  );
}

type LinesProps = {
  from: number;
  to: number;
  /** The class's own unless another is given, as of an old row. */
  ruling?: Ruling | undefined;
  /** Where letters stand, units from left to right, word by word: what a ruling may draw boxes around. */
  words?: [number, number][][];
};

const NO_LINES: Pick<Ruling, "lines" | "washed" | "boxes"> = { lines: [], washed: false, boxes: null };

/** The lines alone, for a drawing that has its own viewBox: whatever the ruling says, and no more. */
export function Lines({ from, to, ruling, words = [] }: LinesProps) {
  const own = useRulingIfAny();
  const { lines, washed, boxes } = ruling ?? own ?? NO_LINES;
  return (
    <g>
      {washed && <rect x={from} y={MID} width={to - from} height={XH} fill="var(--color-band)" />}
      {/* under the lines: no edge makes the base line pale */}
      {boxes &&
        words.flatMap((word) => boxesOf(word, boxes)).map((box) => <Box key={box.join(" ")} box={box} />)}
      {lines.map((line) => (
        <line
          key={line.name}
          x1={from}
          x2={to}
          y1={-line.height_xh * XH}
          y2={-line.height_xh * XH}
          vectorEffect="non-scaling-stroke"
          stroke={line.strong ? "var(--color-line)" : "var(--color-faint)"}
          strokeWidth={line.strong ? 2 : 1.5}
          {...(line.dashed && { strokeDasharray: "6 5" })}
        />
      ))}
    </g>
  );
}

const ROOM = 0.2 * XH; // clear paper between what is written and its box
const BLOCKS_LEAST = 1.2 * XH; // those of an l have room for a pencil's line, too
type BoxAt = [x: number, y: number, width: number, height: number];

/** Three blocks for every letter, or one box around the word. */
function boxesOf(word: [number, number][], boxes: "letter" | "word"): BoxAt[] {
  const wide = word.map(([left, right]) => {
    const blocks = boxes === "letter" && word.length === 1;
    const room = blocks ? Math.max(ROOM, (BLOCKS_LEAST - (right - left)) / 2) : ROOM;
    return [left - room, right + room] as const;
  });
  if (boxes === "letter")
    return wide.flatMap(([left, right]) => [RISE, MID, 0].map((top): BoxAt => [left, top, right - left, XH]));
  const [left, right] = [Math.min(...wide.map(([x]) => x)), Math.max(...wide.map(([, x]) => x))];
  return word.length ? [[left, RISE, right - left, DROP - RISE]] : [];
}

const Box = ({ box: [x, y, width, height] }: { box: BoxAt }) => (
  <rect
    x={x}
    y={y}
    width={width}
    height={height}
    fill="none"
    stroke="var(--color-faint)"
    strokeWidth={1.5}
    vectorEffect="non-scaling-stroke"
  />
);

function LineNames() {
  const { lines } = useRuling();
  const { line_names } = useClass();
  return (
    <g fontSize={13} fill="var(--color-graphite)">
      {lines.map(({ name, height_xh }) => (
        <text key={name} x={2} y={-height_xh * XH - 5}>
          {line_names[name]?.replace(/ line$/, "") ?? name}
        </text>
      ))}
    </g>
  );
}

import type { ReactNode } from "react";
import type { Boxed, Ruling } from "@/api/client";
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
  /** What stands on the lines: see `Lines`. */
  texts?: OnLines[];
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
  texts = [],
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
      <Lines from={0} to={width} texts={texts} />
      {named && <LineNames />}
      {children}
    </svg>
  );
}

/** A letter or text whose origin stands at `x` on the lines, and what may be drawn around it. */
export type OnLines = { x: number; boxed: Boxed };

type LinesProps = {
  from: number;
  to: number;
  /** The class's own unless another is given, as of an old row. */
  ruling?: Ruling | undefined;
  /** What stands on the lines, where the ruling has boxes to draw around it. */
  texts?: OnLines[];
};

const NO_LINES: Pick<Ruling, "lines" | "washed" | "boxes"> = { lines: [], washed: false, boxes: null };

/** The lines alone, for a drawing that has its own viewBox: whatever the ruling says, and no more. */
export function Lines({ from, to, ruling, texts = [] }: LinesProps) {
  const own = useRulingIfAny();
  const { lines, washed, boxes } = ruling ?? own ?? NO_LINES;
  return (
    <g>
      {washed && <rect x={from} y={MID} width={to - from} height={XH} fill="var(--color-band)" />}
      {/* under the lines: no edge makes the base line pale */}
      {boxes &&
        texts.map(({ x, boxed }) => (
          <g key={x} transform={`translate(${x} 0)`}>
            {boxed[boxes].map((box) => (
              <Box key={box.join(" ")} box={box} />
            ))}
          </g>
        ))}
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

const Box = ({ box: [left = 0, top = 0, right = 0, bottom = 0] }: { box: number[] }) => (
  <rect
    x={left}
    y={top}
    width={right - left}
    height={bottom - top}
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

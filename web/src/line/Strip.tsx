import type { ReactNode } from "react";

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
  /** Names of the lines at the left end. */
  named?: boolean;
  /** `group` when the strip holds controls, else one picture. */
  role?: "img" | "group";
};

/** The four lines at true proportion: rise and drop dashed, mid thin, base strong, middle band washed. */
export function Strip({
  width,
  above = 30,
  below = 30,
  label,
  children,
  className,
  named,
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
      <Lines from={0} to={width} />
      {named && <LineNames />}
      {children}
    </svg>
  );
}

/** The lines alone, for a drawing that has its own viewBox. */
export function Lines({ from, to }: { from: number; to: number }) {
  const rule = (y: number, look: object) => (
    <line x1={from} x2={to} y1={y} y2={y} vectorEffect="non-scaling-stroke" {...look} />
  );
  return (
    <g>
      <rect x={from} y={MID} width={to - from} height={XH} fill="var(--color-band)" />
      {rule(RISE, { stroke: "var(--color-faint)", strokeWidth: 1.5, strokeDasharray: "6 5" })}
      {rule(MID, { stroke: "var(--color-faint)", strokeWidth: 1.5 })}
      {rule(0, { stroke: "var(--color-line)", strokeWidth: 2 })}
      {rule(DROP, { stroke: "var(--color-faint)", strokeWidth: 1.5, strokeDasharray: "6 5" })}
    </g>
  );
}

function LineNames() {
  const names: [string, number][] = [
    ["rise", RISE],
    ["mid", MID],
    ["base", 0],
    ["drop", DROP],
  ];
  return (
    <g fontSize={13} fill="var(--color-graphite)">
      {names.map(([name, y]) => (
        <text key={name} x={2} y={y - 5}>
          {name}
        </text>
      ))}
    </g>
  );
}

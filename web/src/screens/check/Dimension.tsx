import type { Finding } from "@/api/client";
import type { Page } from "@/ink/paths";

const LEAST = 4; // units; less is no distance to be drawn

/** A dimension line from where the ink is to where it should be, with the millimetres that are said of it. */
export function Dimension(props: { finding: Finding; page: Page; right: number; px: number }) {
  const { finding, page, right, px } = props;
  if (!finding.goal) return null;
  const [x = 0, y = 0] = finding.at;
  const [gx = 0, gy = 0] = finding.goal;
  const from = { x: page.x(x), y: page.y(y) };
  const to = { x: page.x(gx), y: page.y(gy) };
  const upright = Math.abs(to.y - from.y) >= Math.abs(to.x - from.x);
  const size = upright ? Math.abs(to.y - from.y) : Math.abs(to.x - from.x);
  if (size < LEAST) return null;
  const side = right + 18 * px;
  const above = Math.min(from.y, to.y) - 26 * px;
  const path = upright
    ? `M ${side - 6} ${from.y} h 12 M ${side - 6} ${to.y} h 12 M ${side} ${from.y} V ${to.y}`
    : `M ${from.x} ${above - 6} v 12 M ${to.x} ${above - 6} v 12 M ${from.x} ${above} H ${to.x}`;
  return (
    <g stroke="var(--color-ink)" strokeWidth={1.4 * px} fill="var(--color-ink)">
      <path d={path} fill="none" />
      <text
        x={upright ? side + 6 * px : Math.max(from.x, to.x)}
        y={upright ? Math.min(from.y, to.y) - 16 * px : above - 8 * px} // clear of the letter
        fontSize={13 * px}
        textAnchor="end"
        stroke="none"
      >
        {(finding.mm ?? size / page.unitsPerMm).toFixed(1)} mm
      </text>
    </g>
  );
}

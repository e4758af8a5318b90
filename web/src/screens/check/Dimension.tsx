import type { Finding, LetterModel } from "@/api/client";
import type { Page } from "@/ink/paths";
import { MID } from "@/line/Strip";

/** The height that a size finding is measured against, strip units. */
function reference(code: string, letter: LetterModel): number | null {
  if (code.startsWith("position.")) return 0;
  if (code === "size.tall" || code === "size.short") return MID;
  if (code.startsWith("size.rise")) return letter.bounds[1] ?? null;
  if (code.startsWith("size.drop")) return letter.bounds[3] ?? null;
  if (code === "start.high" || code === "start.low" || code === "start.bottom")
    return letter.strokes[0]?.ring[1] ?? null;
  return null;
}

/** A dimension line from where the ink is to where the line is, with the millimetres between. */
export function Dimension(props: {
  finding: Finding;
  page: Page;
  letter: LetterModel;
  right: number;
  px: number;
}) {
  const { finding, page, letter, right, px } = props;
  const goal = reference(finding.code, letter);
  if (goal === null) return null;
  const from = page.y(finding.at[1] ?? 0);
  const x = right + 18 * px;
  const mm = Math.abs(from - goal) / page.unitsPerMm;
  return (
    <g stroke="var(--color-ink)" strokeWidth={1.4 * px} fill="var(--color-ink)">
      <path
        d={`M ${x - 6} ${from} H ${x + 6} M ${x - 6} ${goal} H ${x + 6} M ${x} ${from} V ${goal}`}
        fill="none"
      />
      <text
        x={x + 6 * px}
        y={Math.min(from, goal) - 6 * px}
        fontSize={13 * px}
        textAnchor="end"
        stroke="none"
      >
        {mm.toFixed(1)} mm
      </text>
    </g>
  );
}

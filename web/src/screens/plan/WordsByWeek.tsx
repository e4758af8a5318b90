import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { PlanWeek } from "@/api/client";
import { dayFormat } from "@/app/days";

const WIDTH = 256;
const HEIGHT = 96;
const short = dayFormat({ day: "numeric", month: "short" });

/** How many words of the bank a child can write by the end of each week. */
export function WordsByWeek({ weeks }: { weeks: PlanWeek[] }) {
  const most = Math.max(1, ...weeks.map((week) => week.words));
  const x = scaleLinear([0, Math.max(1, weeks.length - 1)], [2, WIDTH - 44]);
  const y = scaleLinear([0, most], [HEIGHT - 4, 14]);
  const path = line<PlanWeek>(
    (_, i) => x(i),
    (week) => y(week.words),
  )(weeks);
  const last = weeks.at(-1)?.words ?? 0;
  return (
    <section aria-label="Words a child can write" className="border-t-2 border-ink pt-2">
      <h2 className="text-small">Words a child can write, week by week</h2>
      <svg
        role="img"
        aria-label={weeks.map((week) => `${short(week.monday)}: ${week.words}`).join(", ")}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
      >
        <line x1={0} x2={WIDTH} y1={HEIGHT - 4} y2={HEIGHT - 4} stroke="var(--color-line)" />
        <path d={path ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth={2} />
        <text x={x(weeks.length - 1) + 6} y={y(last) + 5} fontSize={13} fill="var(--color-ink)">
          {last}
        </text>
      </svg>
    </section>
  );
}

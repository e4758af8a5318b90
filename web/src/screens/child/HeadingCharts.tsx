import { scaleLinear, scaleTime } from "d3-scale";
import { area, curveMonotoneX, line } from "d3-shape";
import type { HeadingStory, MeasureStory, Story } from "@/api/client";
import { dayFormat } from "@/app/days";

const day = dayFormat({ day: "numeric", month: "short" });
const W = 300;
const H = 96;
const SHARES = [
  { share: 0, said: "none" },
  { share: 0.5, said: "half" },
  { share: 1, said: "all" },
];
const PAD = { left: 36, right: 6, top: 10, bottom: 20 };

/** Each heading over the weeks: share secure, the interval around it, and where it turned. */
export function HeadingCharts({ story }: { story: Story }) {
  return (
    <section aria-label="Headings over time" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">
        Week by week{" "}
        <span className="text-small font-normal text-graphite">
          how many of the letters written alone were secure; the pale band says how sure that is
        </span>
      </h2>
      <div className="mt-2 grid grid-cols-2 gap-x-6 gap-y-2">
        {story.headings.map((heading) => (
          <HeadingChart key={heading.aspect} heading={heading} />
        ))}
      </div>
      <details className="mt-2 text-small">
        <summary className="cursor-pointer text-graphite">As a table</summary>
        <HeadingTable story={story} />
      </details>
    </section>
  );
}

function HeadingChart({ heading }: { heading: HeadingStory }) {
  const weeks = heading.weeks.map((one) => ({ ...one, at: new Date(one.monday) }));
  const first = weeks[0]?.at ?? new Date();
  const last = weeks.at(-1)?.at ?? new Date();
  const x = scaleTime([first, last], [PAD.left, W - PAD.right]);
  const y = scaleLinear([0, 1], [H - PAD.bottom, PAD.top]);
  type Week = (typeof weeks)[number];
  const band = area<Week>()
    .x((one) => x(one.at))
    .y0((one) => y(one.low))
    .y1((one) => y(one.high))
    .curve(curveMonotoneX);
  const run = line<Week>()
    .x((one) => x(one.at))
    .y((one) => y(one.share))
    .curve(curveMonotoneX);
  const said = heading.turns.map((turn) => `${day(turn.day)}: ${turn.words}`);
  return (
    <figure>
      <figcaption>{heading.name}</figcaption>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="block w-full"
        role="img"
        aria-label={`${heading.name} over ${weeks.length} weeks. ${said.join(". ") || "No turning point."}`}
      >
        {SHARES.map(({ share, said }) => (
          <g key={share}>
            <line x1={PAD.left} x2={W - PAD.right} y1={y(share)} y2={y(share)} stroke="var(--color-hair)" />
            <text
              x={PAD.left - 5}
              y={y(share) + 4}
              fontSize={10}
              textAnchor="end"
              fill="var(--color-graphite)"
            >
              {said}
            </text>
          </g>
        ))}
        <path d={band(weeks) ?? ""} fill="var(--color-pale)" opacity={0.55} />
        <path d={run(weeks) ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth={1.8} />
        {weeks.map((one) => (
          <circle key={one.monday} cx={x(one.at)} cy={y(one.share)} r={2.2} fill="var(--color-ink)" />
        ))}
        {heading.turns.map((turn) => {
          const at = x(new Date(turn.day));
          return (
            <g key={turn.day}>
              <line
                x1={at}
                x2={at}
                y1={PAD.top - 4}
                y2={H - PAD.bottom}
                stroke={turn.better ? "var(--color-line)" : "var(--color-brick)"}
                strokeDasharray="3 3"
              />
            </g>
          );
        })}
        {weeks.length > 1 && (
          <>
            <text x={PAD.left} y={H - 6} fontSize={10} fill="var(--color-graphite)">
              {day(first)}
            </text>
            <text x={W - PAD.right} y={H - 6} fontSize={10} textAnchor="end" fill="var(--color-graphite)">
              {day(last)}
            </text>
          </>
        )}
      </svg>
      {heading.turns.map((turn) => (
        <p key={turn.day} className={turn.better ? "text-small" : "text-small text-brick"}>
          {day(turn.day)}: {turn.words}
        </p>
      ))}
    </figure>
  );
}

function HeadingTable({ story }: { story: Story }) {
  const mondays = [...new Set(story.headings.flatMap((one) => one.weeks.map((week) => week.monday)))].sort();
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="border-b border-ink text-left text-graphite">
          <th scope="col" className="font-normal">
            Week from
          </th>
          {story.headings.map((one) => (
            <th key={one.aspect} scope="col" className="font-normal">
              {one.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {mondays.map((monday) => (
          <tr key={monday} className="border-b border-hair">
            <th scope="row" className="text-left font-normal">
              {day(monday)}
            </th>
            {story.headings.map((one) => {
              const week = one.weeks.find((each) => each.monday === monday);
              return (
                <td key={one.aspect}>
                  {week ? `${halves(week.share * week.letters)} of ${week.letters}` : "–"}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** "2½": a letter that is near counts half. */
function halves(count: number): string {
  const twice = Math.round(2 * count);
  const whole = Math.floor(twice / 2);
  return twice % 2 ? `${whole || ""}½` : String(whole);
}

/** Measures over time; words stand only where a change can be claimed. */
export function Measures({ story }: { story: Story }) {
  const shown = story.measures.filter((one) => one.points.length > 1);
  if (!shown.length) return null;
  return (
    <section aria-label="Measures" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">
        Measures{" "}
        <span className="text-small font-normal text-graphite">
          the middle of each day; a change is named only where it is more than chance
        </span>
      </h2>
      <table className="mt-1 w-full border-collapse">
        <tbody>
          {shown.map((one) => (
            <tr key={one.key} className="h-10 border-b border-hair">
              <th scope="row" className="w-40 pr-2 text-left font-normal first-letter:uppercase">
                {one.name}
              </th>
              <td className="w-40">
                <Spark measure={one} />
              </td>
              <td className="w-24 text-right text-small">{one.latest}</td>
              <td className="pl-4 text-small">
                {one.change ? <b>{one.change}</b> : <span className="text-graphite">about the same</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Spark({ measure }: { measure: MeasureStory }) {
  const points = measure.points.map((one) => ({ ...one, at: new Date(one.day) }));
  const values = points.map((one) => one.value);
  const x = scaleTime([points[0]?.at ?? new Date(), points.at(-1)?.at ?? new Date()], [2, 148]);
  const { signed } = measure;
  const low = Math.min(...values, signed ? 0 : Number.POSITIVE_INFINITY);
  const high = Math.max(...values, signed ? 0 : Number.NEGATIVE_INFINITY);
  const y = scaleLinear([low, high], [28, 4]);
  const run = line<(typeof points)[number]>()
    .x((one) => x(one.at))
    .y((one) => y(one.value));
  return (
    <svg
      viewBox="0 0 150 32"
      className="block h-8 w-[150px]"
      role="img"
      aria-label={`${measure.name}, ${points.length} days, from ${values[0]} to ${values.at(-1)}`}
    >
      {signed && (
        <line x1={2} x2={148} y1={y(0)} y2={y(0)} stroke="var(--color-faint)" strokeDasharray="2 3" />
      )}
      {measure.turned && (
        <line
          x1={x(new Date(measure.turned))}
          x2={x(new Date(measure.turned))}
          y1={1}
          y2={31}
          stroke="var(--color-line)"
          strokeDasharray="3 3"
        />
      )}
      <path d={run(points) ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth={1.4} />
    </svg>
  );
}

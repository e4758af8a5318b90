import type { Difference } from "@/api/client";
import { useDifferences } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { Lines, RISE, XH } from "@/line/Strip";
import { LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";

type Side = Difference["sides"][number];

const WIDTH = 700;

/** Each choice that practitioners disagree on, drawn both ways, with what speaks for each. */
export function DifferencesScreen() {
  const { id, name } = useClass();
  const query = useDifferences(id);
  return (
    <>
      <PageHead crowded title="Where schools differ" sub="Neither way is wrong; a school keeps to one.">
        <LinkButton look="quiet" to="/style">
          House style
        </LinkButton>
        <LinkButton look="quiet" to="/families">
          Families
        </LinkButton>
      </PageHead>
      <Loaded query={query} what="where schools differ">
        {(all) => (
          <ol>
            {all.map((one) => (
              <li key={one.key} className="border-t-2 border-ink pt-2 pb-6">
                <h2 className="font-bold">{one.question}</h2>
                <div className="mt-2 grid grid-cols-2 gap-x-8 gap-y-4 max-[900px]:grid-cols-1">
                  {one.sides.map((side, i) => (
                    <Way key={side.name} side={side} takenBy={one.chosen === i ? name : null} />
                  ))}
                </div>
                <p className="mt-2 text-small text-graphite">{one.why}</p>
              </li>
            ))}
          </ol>
        )}
      </Loaded>
    </>
  );
}

/** One way: drawn on the line, its name, what speaks for it; and whether the class takes it. */
function Way({ side, takenBy }: { side: Side; takenBy: string | null }) {
  const x = 60;
  return (
    <figure>
      <svg
        viewBox={`0 ${RISE - 40} ${WIDTH} ${3 * XH + 70}`}
        className="block w-full max-w-[336px]"
        role="img"
        aria-label={side.name}
      >
        {side.ruled && <Lines from={0} to={WIDTH} />}
        <g transform={`translate(${x} 0)`} fill="none" strokeLinecap="round" strokeLinejoin="round">
          {side.strokes.map((stroke, i) => (
            <path
              key={stroke.path}
              d={stroke.path}
              stroke={i < side.crossed ? "var(--color-mid)" : "var(--color-ink)"}
              strokeWidth={11}
            />
          ))}
          {side.crossed > 0 && (
            <path d="M 0 -110 L 100 10 M 100 -110 L 0 10" stroke="var(--color-brick)" strokeWidth={6} />
          )}
          {side.strokes.map(
            (stroke) =>
              stroke.number !== null && (
                <text
                  key={stroke.path}
                  x={stroke.at[0]}
                  y={(stroke.at[1] ?? 0) + 11}
                  fontSize={34}
                  textAnchor="middle"
                  fill="var(--color-brick)"
                  stroke="none"
                >
                  {stroke.number}
                </text>
              ),
          )}
        </g>
      </svg>
      <figcaption>
        <b className="inline-block first-letter:uppercase">{side.name}</b>
        {takenBy && <span className="ml-2 bg-ochre px-1 text-small">{takenBy}</span>}
        <span className="block text-graphite">{side.speaks}</span>
      </figcaption>
    </figure>
  );
}

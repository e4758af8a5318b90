import type { Attempt, Row } from "@/api/client";
import { extent, pageOf } from "@/ink/paths";
import { Lines, RISE, XH } from "@/line/Strip";
import { Written } from "@/line/Written";

/** The best of the row by the child, the checker and the teacher, side by side at one scale. */
export function Bests({ row, onChoose }: { row: Row; onChoose: (attempt: Attempt) => void }) {
  const picks = [
    [row.child.first_name, row.attempts.find((one) => one.best)],
    ["checker", row.attempts.find((one) => one.id === row.checkers_best)],
    ["you", row.attempts.find((one) => one.teachers_best)],
  ] as const;
  return (
    <section aria-label="Best of the row">
      <h3 className="text-small text-graphite">Best of the row</h3>
      <ul className="mt-1 flex gap-2">
        {picks.map(([who, attempt]) => (
          <li key={who} className="w-16 text-center">
            {attempt ? (
              <button
                type="button"
                aria-label={`Best by ${who}: attempt ${row.attempts.indexOf(attempt) + 1}`}
                onClick={() => onChoose(attempt)}
                className="block w-full rounded-sm hover:bg-ochre/35"
              >
                <Small attempt={attempt} row={row} />
              </button>
            ) : (
              <Small attempt={undefined} row={row} />
            )}
            <span className="text-small text-graphite">
              {who}
              {attempt && ` · ${row.attempts.indexOf(attempt) + 1}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const HALF = 110;

function Small({ attempt, row }: { attempt: Attempt | undefined; row: Row }) {
  const page = pageOf(row.lines);
  const [left, right] = attempt ? extent(attempt.strokes, page) : [0, 0];
  return (
    <svg
      viewBox={`${-HALF} ${RISE - 10} ${2 * HALF} ${3 * XH + 20}`}
      className="h-16 w-full"
      aria-hidden="true"
    >
      <Lines from={-HALF} to={HALF} />
      {attempt && (
        <g transform={`translate(${-(left + right) / 2} 0)`}>
          <Written strokes={attempt.strokes} paper={attempt.paper} page={page} weight={9} />
        </g>
      )}
    </svg>
  );
}

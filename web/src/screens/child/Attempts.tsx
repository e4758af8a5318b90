import { Link } from "react-router";
import type { DatedAttempt, LetterHistory, LetterModel } from "@/api/client";
import { dayFormat } from "@/app/days";
import { CrossOut } from "@/ink/Ink";
import { extent, pageOf } from "@/ink/paths";
import { centred, Glyph, PALE, widthOf } from "@/line/Letter";
import { Lines, RISE, XH } from "@/line/Strip";
import { Written } from "@/line/Written";
import { BeadMark, WORDS } from "@/ui/Bead";

const day = dayFormat({ day: "numeric", month: "short" });
export const dayOf = (one: DatedAttempt) => day(one.day);

/** One attempt's ink, slid so that its middle is at x. */
export function Placed({ one, x, weight }: { one: DatedAttempt; x: number; weight?: number }) {
  const page = pageOf(one.lines);
  const [left, right] = extent(one.attempt.strokes, page);
  const crossed = one.attempt.crossed_out;
  return (
    <g transform={`translate(${x - (left + right) / 2} 0)`}>
      <Written
        strokes={one.attempt.strokes}
        paper={one.attempt.paper}
        page={page}
        colour={crossed ? "var(--color-faint)" : "var(--color-ink)"}
        {...(weight ? { weight } : {})}
      />
      {crossed && <CrossOut from={left} to={right} />}
    </g>
  );
}

/** The first letter written alone and the latest, at one scale, with the model ghosted beneath. */
export function FirstAndLatest({ history, letter }: { history: LetterHistory; letter: LetterModel }) {
  const shown = [history.first, history.latest].filter((one) => one !== null);
  const cell = Math.max(260, widthOf(letter) + 150);
  const words = ["first", "latest"];
  return (
    <svg
      viewBox={`0 ${RISE - 20} ${cell * 2} ${3 * XH + 70}`}
      className="block max-h-[248px] w-full"
      role="img"
      aria-label={`First and latest ${history.letter}`}
    >
      <Lines from={0} to={cell * 2} />
      {shown.map((one, i) => (
        <g key={one.attempt.id}>
          <Glyph letter={letter} x={centred(letter, cell * (i + 0.5))} colour={PALE} weight={11} />
          <Placed one={one} x={cell * (i + 0.5)} weight={6} />
          <text
            x={cell * (i + 0.5)}
            y={XH + 40}
            fontSize={17}
            textAnchor="middle"
            fill="var(--color-graphite)"
          >
            {shown.length === 1 ? "so far" : words[i]}, {dayOf(one)}
          </text>
        </g>
      ))}
    </svg>
  );
}

const PER_LINE = 16;

/** Every attempt in order of date, all at one scale; a new day begins with its date. */
export function Attempts({ history, letter }: { history: LetterHistory; letter: LetterModel }) {
  const cell = Math.max(170, widthOf(letter) + 100);
  const perLine = Math.floor((PER_LINE * 200) / cell);
  const lines = Array.from({ length: Math.ceil(history.attempts.length / perLine) }, (_, i) =>
    history.attempts.slice(i * perLine, (i + 1) * perLine),
  );
  return (
    <section aria-label={`Every ${history.letter}`} className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">
        Every {history.letter}{" "}
        <span className="text-small font-normal text-graphite">{history.attempts.length} written</span>
      </h2>
      {lines.map((line, l) => (
        <svg
          key={line[0]?.attempt.id}
          viewBox={`0 ${RISE - 70} ${cell * perLine} ${3 * XH + 140}`}
          className="block w-full"
          role="group"
          aria-label={`Attempts ${l * perLine + 1} to ${l * perLine + line.length}`}
        >
          <Lines from={0} to={cell * perLine} />
          {line.map((one, i) => {
            const before = history.attempts[l * perLine + i - 1];
            const x = cell * (i + 0.5);
            return (
              <Link
                key={one.attempt.id}
                to={`/check/${one.row_id}?attempt=${one.attempt.position + 1}`}
                aria-label={`${dayOf(one)}, ${one.attempt.crossed_out ? "crossed out" : WORDS[one.attempt.verdict]}`}
              >
                <rect x={x - cell / 2} y={RISE - 60} width={cell} height={3 * XH + 130} fill="transparent" />
                {one.day !== before?.day && (
                  <g>
                    <line
                      x1={x - cell / 2}
                      x2={x - cell / 2}
                      y1={RISE - 60}
                      y2={XH + 60}
                      stroke="var(--color-mid)"
                      strokeWidth={2}
                    />
                    <text x={x - cell / 2 + 12} y={RISE - 26} fontSize={34} fill="var(--color-graphite)">
                      {dayOf(one)}
                    </text>
                  </g>
                )}
                <Placed one={one} x={x} weight={9} />
                {!one.attempt.crossed_out && (
                  <g transform={`translate(${x} ${XH + 38}) scale(2.4)`}>
                    <BeadMark verdict={one.attempt.verdict} />
                  </g>
                )}
              </Link>
            );
          })}
        </svg>
      ))}
    </section>
  );
}

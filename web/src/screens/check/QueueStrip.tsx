import clsx from "clsx";
import { memo } from "react";
import type { QueueAttempt, QueueRow } from "@/api/client";
import { CrossOut } from "@/ink/Ink";
import { extent, type Page, pageOf } from "@/ink/paths";
import { Lines, RISE, XH } from "@/line/Strip";
import { Written } from "@/line/Written";
import { BeadMark, WORDS } from "@/ui/Bead";
import { waits } from "./heldQueue";

const ABOVE = 24;
const BELOW = 130;
const LEAST = 2250; // units across: letters of all rows are of one size
const COLUMN_PX = 524; // what that is on a laptop: beads keep their size
const RING = 34;

type Props = {
  row: QueueRow;
  /** Which of its letters is chosen, if one is. */
  at: number | null;
  onChoose: (row: QueueRow, index: number) => void;
};

/** A row of the queue: who, what there is to say of it, and the ink on its lines with a bead under each. */
export const QueueStrip = memo(function QueueStrip({ row, at, onChoose }: Props) {
  const page = pageOf(row.lines);
  const slot = row.slot_mm * page.unitsPerMm;
  const width = Math.max(LEAST, slot * row.attempts.length);
  const px = width / COLUMN_PX;
  return (
    <li
      data-row={row.id}
      className={clsx(
        "scroll-my-24 rounded-sm border px-2 pt-1",
        at === null ? "border-transparent" : "border-pale bg-sheet",
      )}
    >
      <p className="flex items-baseline gap-3">
        <span className="font-bold">{row.child.name}</span>
        <span className="truncate text-small text-graphite">{row.says}</span>
        {!waits(row) && <span className="ml-auto text-small text-graphite">marked</span>}
      </p>
      <svg
        viewBox={`0 ${RISE - ABOVE} ${width} ${3 * XH + ABOVE + BELOW}`}
        className="block w-full overflow-visible" // a letter that floats is seen to its top
        role="group"
        aria-label={`${row.child.name}, row of ${row.letter}`}
      >
        <Lines
          from={0}
          to={width}
          ruling={row.ruled}
          texts={row.attempts.flatMap(({ paper }, i) =>
            paper ? [] : { x: slot * i + row.letter_left_mm * page.unitsPerMm, boxed: row.boxed },
          )}
        />
        {row.attempts.map((attempt, i) => (
          <Letter
            key={attempt.id}
            name={`${row.child.name}, ${row.letter}, number ${i + 1}`}
            attempt={attempt}
            page={page}
            x={slot * i}
            width={slot}
            px={px}
            chosen={i === at}
            onChoose={() => onChoose(row, i)}
          />
        ))}
      </svg>
    </li>
  );
});

type LetterProps = {
  name: string;
  attempt: QueueAttempt;
  page: Page;
  x: number;
  width: number;
  px: number;
  chosen: boolean;
  onChoose: () => void;
};

const named = (name: string, attempt: QueueAttempt) =>
  [
    name,
    attempt.crossed_out ? "crossed out" : WORDS[attempt.verdict],
    attempt.mark && "your mark",
    attempt.best && "best",
    attempt.teachers_best && "your best",
  ]
    .filter(Boolean)
    .join(", ");

function Letter({ name, attempt, page, x, width, px, chosen, onChoose }: LetterProps) {
  const { strokes, crossed_out, verdict, mark, best, teachers_best, at, paper } = attempt;
  return (
    <>
      <g pointerEvents="none">
        <Written
          strokes={strokes}
          paper={paper}
          page={page}
          weight={2.2 * px}
          colour={crossed_out ? "var(--color-pale)" : "var(--color-ink)"}
        />
      </g>
      <g
        role="button"
        tabIndex={chosen ? 0 : -1}
        aria-pressed={chosen}
        aria-label={named(name, attempt)}
        className="outline-none"
        onClick={onChoose}
      >
        <rect
          x={x + 6}
          y={RISE - ABOVE + 4}
          width={width - 12}
          height={3 * XH + ABOVE + BELOW - 8}
          rx={3 * px}
          fill="transparent"
          stroke={chosen ? "var(--color-ink)" : "none"}
          strokeWidth={1.6 * px}
        />
        {crossed_out && <CrossOut from={extent(strokes, page)[0]} to={extent(strokes, page)[1]} />}
        {at && verdict === "fix" && !crossed_out && (
          <circle
            cx={page.x(at[0] ?? 0)}
            cy={page.y(at[1] ?? 0)}
            r={RING}
            fill="none"
            stroke="var(--color-brick)"
            strokeWidth={1.5 * px}
          />
        )}
        <g transform={`translate(${x + width / 2} ${XH + 40}) scale(${px})`}>
          {mark && <rect x={-16} y={-11} width={32} height={20} rx={3} fill="var(--color-ochre)" />}
          {crossed_out ? (
            <path d="M -4 -4 L 4 4 M -4 4 L 4 -4" stroke="var(--color-mid)" strokeWidth={1.4} />
          ) : (
            <BeadMark verdict={verdict} />
          )}
          {(best || teachers_best) && (
            <text y={21} fontSize={12} textAnchor="middle" fill="var(--color-ink)">
              {teachers_best ? "your best" : "best"}
            </text>
          )}
        </g>
      </g>
    </>
  );
}

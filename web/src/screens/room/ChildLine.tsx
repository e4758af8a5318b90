import type { ChildInRoom, ChildsLine } from "@/api/client";
import { CrossOut, Ink } from "@/ink/Ink";
import { extent, pageOf } from "@/ink/paths";
import { DROP, Lines, RISE } from "@/line/Strip";

const ABOVE = 10;
const WIDTH_LEAST = 1400; // six rows of children on one screen
const RING = 34;

/** What to say beside a child's name, the gravest first. */
function state(one: ChildInRoom): { words: string; grave: boolean } {
  if (one.tablet_id === null) return { words: "not here", grave: false };
  if (!one.here) return { words: one.unsent ? `offline, ${one.unsent} kept on it` : "offline", grave: false };
  if (one.remark) return { words: one.remark, grave: true };
  if (one.unsent) return { words: `${one.unsent} on the way`, grave: false };
  if (one.line && one.line.to_write === 0) return { words: "done", grave: false };
  return { words: "", grave: false };
}

/** A child's name and line as it is being written: blue what is still under the pen, a ring where to look. */
export function ChildLine({ one, onOpen }: { one: ChildInRoom; onOpen: () => void }) {
  const said = state(one);
  return (
    <>
      <div className="flex items-baseline justify-between gap-2">
        <button type="button" className="font-bold hover:underline" onClick={onOpen}>
          {one.child.first_name}
        </button>
        <span className={said.grave ? "text-small text-brick" : "text-small text-graphite"}>
          {said.words}
        </span>
      </div>
      {one.line ? <Line line={one.line} name={one.child.first_name} /> : <NoLine />}
    </>
  );
}

const NoLine = () => (
  <svg viewBox={`0 ${RISE - ABOVE} ${WIDTH_LEAST} ${DROP - RISE + 2 * ABOVE}`} aria-hidden="true">
    <Lines from={0} to={WIDTH_LEAST} />
  </svg>
);

function Line({ line, name }: { line: ChildsLine; name: string }) {
  const page = pageOf(line.lines);
  const ink = [...line.attempts.flatMap((one) => one.strokes), ...line.under_pen];
  const right = ink.length ? extent(ink, page)[1] : 0;
  const width = Math.max(WIDTH_LEAST, line.width_mm * page.unitsPerMm, right + 40);
  const written = line.attempts.filter((one) => !one.crossed_out).length;
  return (
    <svg
      viewBox={`0 ${RISE - ABOVE} ${width} ${DROP - RISE + 2 * ABOVE}`}
      className="block w-full"
      role="img"
      aria-label={`${name}: ${line.text}, ${written} written, ${line.to_write} to come`}
    >
      <Lines from={0} to={width} ruling={line.ruled} />
      {line.attempts.map((one) => (
        <g key={one.id}>
          <Ink
            strokes={one.strokes}
            page={page}
            weight={10}
            colour={one.crossed_out ? "var(--color-faint)" : "var(--color-ink)"}
          />
          {one.crossed_out && (
            <CrossOut from={extent(one.strokes, page)[0]} to={extent(one.strokes, page)[1]} />
          )}
          {one.ring && (
            <circle
              cx={page.x(one.ring[0] ?? 0)}
              cy={page.y(one.ring[1] ?? 0)}
              r={RING}
              fill="none"
              stroke="var(--color-brick)"
              strokeWidth={8}
            />
          )}
        </g>
      ))}
      <Ink strokes={line.under_pen} page={page} weight={10} colour="var(--color-line)" />
    </svg>
  );
}

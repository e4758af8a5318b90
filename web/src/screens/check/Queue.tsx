import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { rowsOf, useQueueSteps } from "@/api/checking";
import type { Edit, MarkVerdict, Queue as QueueData, QueueGroup, QueueRow } from "@/api/client";
import { dayFormat } from "@/app/days";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { Button } from "@/ui/Button";
import { afterStep, stillShown, waits } from "./heldQueue";
import { MARKS } from "./marks";
import { QueueStrip } from "./QueueStrip";

const NUMBERS = [
  "first",
  "second",
  "third",
  "fourth",
  "fifth",
  "sixth",
  "seventh",
  "eighth",
  "ninth",
  "tenth",
];
const long = dayFormat({ weekday: "long", day: "numeric", month: "long" });

/** "1 row", "2 rows". */
export const rowCount = (count: number) => `${count} row${count === 1 ? "" : "s"}`;

type Chosen = { row: QueueRow; at: number };

const rowElement = (id: number) => document.querySelector<HTMLElement>(`[data-row="${id}"]`);

/** The row on the screen above or below another, nearest to it. */
function rowBeside(rows: QueueRow[], from: QueueRow, down: boolean): QueueRow | undefined {
  const here = rowElement(from.id)?.getBoundingClientRect();
  if (!here) return undefined;
  const places = rows.flatMap((row) => {
    const place = rowElement(row.id)?.getBoundingClientRect();
    return place && (down ? place.top > here.top + 4 : place.top < here.top - 4) ? [{ row, place }] : [];
  });
  const far = ({ place }: (typeof places)[number]) =>
    10 * Math.abs(place.top - here.top) + Math.abs(place.left - here.left);
  return places.sort((one, other) => far(one) - far(other))[0]?.row;
}

type Props = {
  queue: QueueData;
  /** Something else on the page has the keys. */
  idle: boolean;
  /** A row was chosen: it has the keys. */
  onTake: () => void;
  /** Down from the last row. */
  onBelow: () => void;
};

/** Rows that wait, marked right where they stand. */
export function Queue({ queue, idle, onTake, onBelow }: Props) {
  const { id: classId } = useClass();
  const navigate = useNavigate();
  const steps = useQueueSteps(classId);
  const [seen, setSeen] = useState(queue);
  const [groups, setGroups] = useState(queue.groups);
  if (queue !== seen) {
    setSeen(queue);
    setGroups(stillShown(groups, queue.groups));
  }
  const rows = rowsOf(groups);
  const [place, setPlace] = useState(() => ({ rowId: rows[0]?.id, at: rows[0]?.to_see ?? 0 }));
  const row = rows.find((one) => one.id === place.rowId);
  const chosen: Chosen | null = row ? { row, at: Math.min(place.at, row.attempts.length - 1) } : null;
  const attempt = chosen?.row.attempts[chosen.at];
  const done = useRef<number[][]>([]); // the rows of every step, the latest last
  const [canUndo, setCanUndo] = useState(false);
  const agreeing = useRef(new Set<number>());

  const choose = (to: QueueRow | undefined, at?: number) => {
    if (!to) return;
    onTake();
    setPlace({ rowId: to.id, at: at ?? to.to_see });
  };
  useFocusOn(idle ? null : chosen);

  const turn = useRef(Promise.resolve());
  /** Steps are done in the order of the keys, however quickly they come; what went wrong is told below. */
  const inTurn = (step: () => Promise<void>) => {
    turn.current = turn.current.then(step).catch(() => {});
  };
  const show = (now: Parameters<typeof afterStep>[1]) => {
    setGroups((all) => afterStep(all, now));
    setCanUndo(done.current.length > 0);
  };
  const edit = (change: Omit<Edit, "attempt_ids">) => {
    if (!chosen || !attempt) return;
    const rowId = chosen.row.id;
    const body = { ...change, attempt_ids: [attempt.id] };
    inTurn(async () => {
      const now = await steps.edit.mutateAsync({ rowId, body });
      done.current.push([rowId]);
      show([now]);
    });
  };
  const agree = (some: QueueRow[]) => {
    const ids = some.map((one) => one.id).filter((id) => !agreeing.current.has(id));
    if (!ids.length) return;
    for (const id of ids) agreeing.current.add(id);
    inTurn(async () => {
      try {
        const now = await steps.agree.mutateAsync(ids);
        done.current.push(ids);
        show(now);
      } finally {
        for (const id of ids) agreeing.current.delete(id);
      }
    });
  };
  /** Agree with the chosen row and go on to the next that waits, without waiting for the answer. */
  const agreeAndGoOn = () => {
    if (!chosen) return;
    agree([chosen.row]);
    choose(nextWaiting(chosen.row));
  };
  const undo = () =>
    inTurn(async () => {
      const last = done.current.at(-1);
      if (!last) return;
      const now = await steps.undo.mutateAsync(last);
      done.current.pop();
      show(now);
      setPlace((one) => ({ ...one, rowId: last[0] }));
    });
  const along = (by: number) => {
    if (!chosen) return;
    const to = chosen.at + by;
    if (to >= 0 && to < chosen.row.attempts.length) return choose(chosen.row, to);
    const next = rows[rows.indexOf(chosen.row) + by];
    choose(next, by > 0 ? 0 : (next?.attempts.length ?? 1) - 1);
  };
  const nextWaiting = (after: QueueRow) => {
    const at = rows.indexOf(after);
    const others = [...rows.slice(at + 1), ...rows.slice(0, at)];
    return others.find((one) => waits(one) && !agreeing.current.has(one.id));
  };
  const mark = (verdict: MarkVerdict) => edit({ mark: attempt?.mark === verdict ? "none" : verdict });
  const best = () => edit({ teachers_best: !attempt?.teachers_best });
  const cross = () => edit({ crossed_out: !attempt?.crossed_out });
  const closer = () => chosen && navigate(`/check/${chosen.row.id}?attempt=${chosen.at + 1}`);
  useKeys(
    idle
      ? {}
      : {
          ArrowRight: () => along(1),
          ArrowLeft: () => along(-1),
          ArrowDown: () => {
            const below = chosen && rowBeside(rows, chosen.row, true);
            if (below) choose(below);
            else onBelow();
          },
          ArrowUp: () => chosen && choose(rowBeside(rows, chosen.row, false)),
          ...Object.fromEntries(MARKS.map(({ verdict, key }) => [key, () => mark(verdict)])),
          b: best,
          c: cross,
          a: agreeAndGoOn,
          n: () => chosen && choose(nextWaiting(chosen.row)),
          u: undo,
          Enter: closer,
        },
    { onLetters: true },
  );
  const secure = rows.filter((one) => one.all_secure && waits(one));
  const problem = steps.edit.error ?? steps.agree.error ?? steps.undo.error;
  return (
    <section aria-label="To look at" className="flex flex-1 flex-col">
      {groups.map((group, i) => (
        <Group
          key={`${group.day} ${group.letter}`}
          group={group}
          chosen={chosen}
          onChoose={choose}
          aside={
            i === 0 && (
              <>
                {secure.length > 0 && (
                  <Button onClick={() => agree(secure)}>
                    {secure.length === 1
                      ? "Agree with the one that is all secure"
                      : `Agree with the ${secure.length} that are all secure`}
                  </Button>
                )}
                <Button onClick={() => agree(rows.filter(waits))} disabled={!rows.some(waits)}>
                  Agree with all
                </Button>
              </>
            )
          }
        />
      ))}
      {queue.more > 0 && (
        <p className="py-3 text-graphite">
          {rowCount(queue.more)} from before wait besides: they come up once these are marked.
        </p>
      )}
      <div
        hidden={idle}
        className="sticky bottom-0 z-10 -mb-6 mt-auto flex flex-wrap max-[900px]:static items-center gap-2 border-t border-hair bg-paper py-3"
      >
        <p className="min-w-0 flex-1 basis-52" role="status">
          {chosen && attempt && (
            <>
              <b>
                {chosen.row.child.first_name}, {NUMBERS[chosen.at] ?? `${chosen.at + 1}th`}{" "}
                {chosen.row.letter}
              </b>{" "}
              {attempt.says}
            </>
          )}
          {problem && <span className="block text-small text-brick">{problem.message}</span>}
        </p>
        {MARKS.map(({ verdict, name, key }) => (
          <Button
            key={verdict}
            aria-label={`Mark as ${verdict}`}
            pressed={attempt?.mark === verdict}
            shortcut={key}
            onClick={() => mark(verdict)}
          >
            {name}
          </Button>
        ))}
        <Button
          aria-label="Mark as your best one"
          pressed={attempt?.teachers_best ?? false}
          shortcut="B"
          onClick={best}
        >
          Best
        </Button>
        <Button pressed={attempt?.crossed_out ?? false} shortcut="C" onClick={cross}>
          Cross out
        </Button>
        <Button aria-label="Agree with the row" shortcut="A" onClick={agreeAndGoOn}>
          Agree
        </Button>
        <Button shortcut="U" disabled={!canUndo} onClick={undo}>
          Undo
        </Button>
        <Button shortcut="Enter" onClick={closer}>
          Closer
        </Button>
      </div>
    </section>
  );
}

/** The chosen letter has the focus and is on the screen. */
function useFocusOn(chosen: Chosen | null) {
  const [rowId, at] = [chosen?.row.id, chosen?.at];
  const first = useRef(true);
  useEffect(() => {
    if (rowId === undefined || at === undefined) return;
    const element = rowElement(rowId);
    element?.querySelectorAll<SVGElement>("[role=button]")[at]?.focus({ preventScroll: true });
    if (!first.current) element?.scrollIntoView({ block: "nearest" });
    first.current = false;
  }, [rowId, at]);
}

type GroupProps = {
  group: QueueGroup;
  chosen: Chosen | null;
  onChoose: (row: QueueRow, at: number) => void;
  aside: React.ReactNode;
};

function Group({ group, chosen, onChoose, aside }: GroupProps) {
  const wanting = group.rows.filter((row) => !row.all_secure && waits(row)).length;
  const title = `${group.letter}, ${long(group.day)}`;
  return (
    <section aria-label={title} className="mb-4">
      <header className="mb-1 flex flex-wrap items-end gap-x-3 border-b-2 border-ink pb-1">
        <h2 className="font-bold">{title}</h2>
        <p className="text-small text-graphite">
          {rowCount(group.rows.length)}
          {wanting > 0 && `, ${wanting} ${wanting === 1 ? "wants" : "want"} you`}
        </p>
        <span className="ml-auto" />
        {aside}
      </header>
      <ul className="grid grid-cols-2 gap-x-6 max-[820px]:grid-cols-1">
        {group.rows.map((row) => (
          <QueueStrip
            key={row.id}
            row={row}
            at={row.id === chosen?.row.id ? chosen.at : null}
            onChoose={onChoose}
          />
        ))}
      </ul>
    </section>
  );
}

import type { QueueAttempt, QueueGroup, QueueRow } from "@/api/client";

/** What a step on a row answers with, as far as the queue shows it. */
type Changed = { id: number; attempts: Omit<QueueAttempt, "strokes" | "at" | "says">[] };

const withRows = (groups: QueueGroup[], change: (row: QueueRow) => QueueRow) =>
  groups.map((group) => ({ ...group, rows: group.rows.map(change) }));

/** The queue after a step: what the step said of its rows, and all else as it was. */
export function afterStep(groups: QueueGroup[], changed: Changed[]): QueueGroup[] {
  const byId = new Map(changed.map((row) => [row.id, row]));
  return withRows(groups, (row) => {
    const now = new Map(byId.get(row.id)?.attempts.map((one) => [one.id, one]));
    const attempts = row.attempts.map((one) => {
      const { crossed_out, verdict, mark, best, teachers_best } = now.get(one.id) ?? one;
      return { ...one, crossed_out, verdict, mark, best, teachers_best };
    });
    return { ...row, attempts };
  });
}

/**
 * The queue as it is shown after it was fetched anew: rows stay where the teacher has them, also those that
 * wait no longer, and what is new comes after.
 */
export function stillShown(shown: QueueGroup[], now: QueueGroup[]): QueueGroup[] {
  const fresh = new Map(now.flatMap((group) => group.rows).map((row) => [row.id, row]));
  const known = new Set(shown.flatMap((group) => group.rows).map((row) => row.id));
  const same = (one: QueueGroup, other: QueueGroup) => one.letter === other.letter && one.day === other.day;
  const added = now
    .map((group) => ({ ...group, rows: group.rows.filter((row) => !known.has(row.id)) }))
    .filter((group) => group.rows.length);
  const kept = withRows(shown, (row) => fresh.get(row.id) ?? row).map((group) => ({
    ...group,
    rows: [...group.rows, ...added.filter((one) => same(one, group)).flatMap((one) => one.rows)],
  }));
  return [...kept, ...added.filter((one) => !shown.some((group) => same(one, group)))];
}

/** Whether a row wants a mark still. */
export const waits = (row: QueueRow) => row.attempts.some((one) => !one.crossed_out && one.mark === null);

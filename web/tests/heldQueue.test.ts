import { expect, test } from "vitest";
import type { QueueAttempt, QueueGroup, QueueRow } from "@/api/client";
import { afterStep, stillShown, waits } from "@/screens/check/heldQueue";

const attempt = (id: number) =>
  ({ id, crossed_out: false, mark: null, verdict: "fix", says: "low" }) as QueueAttempt;
const row = (id: number) => ({ id, attempts: [attempt(10 * id), attempt(10 * id + 1)] }) as QueueRow;
const group = (letter: string, ...ids: number[]) =>
  ({ letter, day: "2026-11-26", rows: ids.map(row) }) as QueueGroup;
const shape = (groups: QueueGroup[]) =>
  groups.map(({ letter, rows }) => [letter, ...rows.map(({ id }) => id)]);

test("rows stay where they are when they wait no longer, and new ones come after", () => {
  const shown = [group("n", 1, 2), group("o", 3)];
  const now = [group("s", 6), group("o", 5, 3), group("n", 2)];
  expect(shape(stillShown(shown, now))).toEqual([
    ["n", 1, 2],
    ["o", 3, 5],
    ["s", 6],
  ]);
});

test("a step changes the letters it is about, and keeps what only the queue knows of them", () => {
  const marked = { ...attempt(10), mark: "secure", verdict: "secure" } as QueueAttempt;
  const [first, second] = afterStep([group("n", 1, 2)], [{ id: 1, attempts: [marked] }])[0]?.rows ?? [];
  expect(first?.attempts.map(({ mark, verdict, says }) => [mark, verdict, says])).toEqual([
    ["secure", "secure", "low"],
    [null, "fix", "low"],
  ]);
  expect(second).toEqual(row(2));
});

test("a row waits until every letter that counts has a mark", () => {
  const [one, two] = [attempt(1), { ...attempt(2), crossed_out: true }];
  expect(waits({ ...row(1), attempts: [one, two] })).toBe(true);
  expect(waits({ ...row(1), attempts: [{ ...one, mark: "near" }, two] })).toBe(false);
});

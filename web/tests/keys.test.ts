import { QueryClient, type QueryKey, QueryObserver } from "@tanstack/react-query";
import { expect, test, vi } from "vitest";
import { type Change, keys, wentStale } from "@/api/keys";

const SHOWN: Record<string, QueryKey> = {
  story: keys.story(4),
  "the map": keys.map(1, "all", undefined),
  today: keys.today(1),
  coverage: keys.coverage(1),
  "a child's letters": keys.child(4),
  "a letter's history": keys.history(4, "n"),
  "the queue": keys.queue(1, "newest"),
  "a row": keys.row(7),
  "rows of a child": keys.rows({ child: 4 }),
  "words of a child": keys.wordsOf(4, 20),
  "words to look at": keys.wordsToLookAt(1, "newest"),
  dictations: keys.dictations(1),
  "a dictation": keys.dictation(3),
  "a child's sounds": keys.unitsOf(4),
  "the map of sounds": keys.unitMap(1, undefined),
  "what was watched": keys.watched(1, "n"),
  trust: keys.trust(1),
  classes: keys.classes(),
  "a model": keys.letter(1, "n"),
  styles: keys.styles(),
};

/** Names of the answers that are fetched anew after a change. */
function stale(change: Change): string[] {
  const client = new QueryClient();
  for (const key of Object.values(SHOWN)) client.setQueryData(key, "as it was");
  wentStale(client, change);
  return Object.keys(SHOWN).filter((name) => client.getQueryState(SHOWN[name] ?? [])?.isInvalidated);
}

test("an answer that is asked for the first time during a change is of after it", async () => {
  const client = new QueryClient();
  const answers: ((words: string) => void)[] = [];
  const queryFn = () => new Promise<string>((answer) => answers.push(answer));
  const screen = new QueryObserver<string>(client, { queryKey: keys.bank("skerry", false), queryFn });
  const leave = screen.subscribe(() => {});
  wentStale(client, "bank");
  await vi.waitFor(() => expect(answers.length).toBe(2));
  answers[0]?.("before");
  answers[1]?.("after");
  await vi.waitFor(() => expect(screen.getCurrentResult().data).toBe("after"));
  leave();
});

test("a mark changes a row, the queue and all that is told over time", () => {
  expect(stale("marks")).toEqual([
    "story",
    "the map",
    "today",
    "coverage",
    "a child's letters",
    "a letter's history",
    "the queue",
    "a row",
    "rows of a child",
    "trust",
  ]);
});

test("a word crossed out or rubbed out changes the child's story and what is shown of its words", () => {
  const shown = ["words of a child", "words to look at", "a dictation"];
  for (const one of [...shown, "story", "today", "coverage", "the map", "a letter's history"])
    expect(stale("word")).toContain(one); // its letters count towards how each of them stands
  expect(stale("word")).not.toContain("the queue");
});

test("a mark in a dictation changes a child's sounds and the class's, and nothing of its letters", () => {
  expect(stale("dictated")).toEqual(["dictations", "a child's sounds", "the map of sounds"]);
});

test("what was watched changes the letter's evidence, and no row", () => {
  expect(stale("watched")).toContain("what was watched");
  expect(stale("watched")).toContain("the map");
  expect(stale("watched")).not.toContain("a row");
});

test("no change makes a model or a style untrue", () => {
  for (const change of ["marks", "written", "watched", "word", "notes", "children"] as const) {
    expect(stale(change)).not.toContain("a model");
    expect(stale(change)).not.toContain("styles");
  }
});

test("answers that may go stale apart are not kept under one name by chance", () => {
  const kinds = Object.entries(keys) as [string, (...given: never[]) => QueryKey][];
  const roots = new Map<unknown, string[]>();
  for (const [kind, key] of kinds) {
    const root = (key as (...given: unknown[]) => QueryKey)(1, 2, 3)[0];
    roots.set(root, [...(roots.get(root) ?? []), kind]);
  }
  const shared = [...roots.values()].filter((those) => those.length > 1);
  expect(shared).toEqual([
    ["classes", "archived", "counts"],
    ["families", "compared", "parts", "rulePreview", "partsAsWanted"],
    ["movesOf", "differences", "model", "slips", "letter", "line"],
    ["map", "letterInClass"],
    ["today", "coverage"],
  ]);
});

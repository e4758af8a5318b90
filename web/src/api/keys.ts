import type { Query, QueryClient, QueryKey } from "@tanstack/react-query";
import type { QueueOrder } from "./client";

/** Where every answer is kept. No query spells its key anywhere else. */
export const keys = {
  about: () => ["about"],
  demoSchool: () => ["demo-school"],
  classes: () => ["classes"],
  archived: () => ["classes", "archived"],
  counts: () => ["classes", "counts"],
  rulings: () => ["rulings"],
  levelsTold: () => ["levels-told"],
  erased: () => ["erased"],
  timeZone: () => ["time-zone"],
  setAside: () => ["set-aside"],
  families: (classId: number, scheme: string, alphabet: string) => ["families", classId, scheme, alphabet],
  compared: (classId: number, first: string, second: string, alphabet: string) => [
    "families",
    classId,
    "compared",
    first,
    second,
    alphabet,
  ],
  parts: (classId: number, scheme: string, alphabet: string, family: string, most: number) => [
    "families",
    classId,
    "parts",
    scheme,
    alphabet,
    family,
    most,
  ],
  movesOf: (classId: number, char: string) => ["letters", classId, "moves", char],
  rulePreview: (classId: number, scheme: string, alphabet: string, family: string, rule: string) => [
    "families",
    classId,
    "rule",
    scheme,
    alphabet,
    family,
    rule,
  ],
  partsAsWanted: (classId: number, scheme: string, alphabet: string, family: string, parts: string[]) => [
    "families",
    classId,
    "parts",
    scheme,
    alphabet,
    family,
    parts,
  ],
  differences: (classId: number) => ["letters", classId, "differences"],
  sounds: (classId: number) => ["sounds", classId],
  model: (classId: number, text: string) => ["letters", classId, "model", text],
  slips: (classId: number, char: string) => ["letters", classId, "slips", char],
  letter: (classId: number, char: string) => ["letters", classId, "letter", char],
  line: (classId: number, text: string) => ["letters", classId, "line", text],
  ownWords: (classId: number) => ["own-words", classId],
  styles: () => ["styles"],
  styleLook: (...look: unknown[]) => ["style-look", ...look],
  child: (childId: number) => ["child", childId],
  history: (childId: number, char: string) => ["history", childId, char],
  standing: (childId: number, char: string) => ["standing", childId, char],
  story: (childId: number) => ["story", childId],
  rows: (filter: object) => ["rows", filter],
  row: (rowId: number) => ["row", rowId],
  explained: (rowId: number, attemptId: number) => ["explained", rowId, attemptId],
  queue: (classId: number, order: QueueOrder) => ["queue", classId, order],
  trust: (classId: number) => ["trust", classId],
  watched: (classId: number, letter: string) => ["watched", classId, letter],
  map: (classId: number, aspect: string, on: string | undefined) => ["map", classId, aspect, on],
  today: (classId: number) => ["today", classId],
  letterInClass: (classId: number, char: string) => ["map", classId, "letter", char],
  coverage: (classId: number) => ["today", classId, "coverage"],
  word: (wordId: number) => ["word", wordId],
  wordsOf: (childId: number, limit: number) => ["words-of", childId, limit],
  wordsToLookAt: (classId: number, order: string) => ["words-to-look-at", classId, order],
  wordList: (classId: number, what: string, asked: object) => ["word-list", classId, what, asked],
  dictations: (classId: number) => ["dictations", classId],
  dictation: (dictationId: number) => ["dictation", dictationId],
  unitsOf: (childId: number) => ["units-of", childId],
  unitMap: (classId: number, on: string | undefined) => ["unit-map", classId, on],
  plan: (classId: number) => ["plan", classId],
  planOrders: (classId: number, number: number, share: number[] | null, whole: boolean) => [
    "plan-orders",
    classId,
    number,
    share,
    whole,
  ],
  planDefaults: (classId: number) => ["plan-defaults", classId],
  lesson: (classId: number, key: number) => ["lesson", classId, key],
  lessonToday: (classId: number) => ["lesson-today", classId],
  readySheets: (classId: number) => ["ready-sheets", classId],
  keptSheets: (classId: number) => ["kept-sheets", classId],
  eachSheets: (classId: number) => ["each-sheets", classId],
  sheetPreview: (classId: number, wish: object, child: string) => ["sheet-preview", classId, wish, child],
  printedSheets: (classId: number) => ["printed-sheets", classId],
  pile: (classId: number) => ["pile", classId],
  page: (pageId: number) => ["page", pageId],
  proposal: (pageId: number, corners: number[][] | null) => ["page-proposal", pageId, corners],
  door: () => ["door"],
  audit: () => ["audit"],
  retention: () => ["retention"],
  room: (classId: number) => ["room", classId],
  picturesKept: () => ["pictures-kept"],
  rule: () => ["rule"],
  bank: (search: string, own: boolean) => ["bank", search, own],
  withinReach: (childId: number | undefined) => ["within-reach", childId],
} satisfies Record<string, (...given: never[]) => QueryKey>;

type Kind = keyof typeof keys;

/** What is told over time of a letter: of these a child's letter is made, and all overviews. */
const EVIDENCE: Kind[] = [
  "child",
  "history",
  "standing",
  "story",
  "map",
  "today",
  "plan",
  "lesson",
  "lessonToday",
  "readySheets",
  "eachSheets",
];

/** What is no longer true when something changes. */
const STALE = {
  marks: ["rows", "row", "queue", "trust", ...EVIDENCE],
  queueMarks: ["rows", "row", "trust", ...EVIDENCE],
  written: [
    "wordList",
    "dictation",
    "row",
    "word",
    "rows",
    "queue",
    "withinReach",
    "wordsOf",
    "wordsToLookAt",
    ...EVIDENCE,
  ],
  watched: ["watched", ...EVIDENCE],
  word: ["wordsOf", "wordsToLookAt", "dictation", ...EVIDENCE],
  lookedAt: ["wordsToLookAt", "today"],
  pages: ["pile", "page", "printedSheets", "today"],
  pageReplaced: ["pile", "printedSheets"],
  notes: ["story"],
  plan: ["lesson", "lessonToday"],
  classes: ["classes", "child"],
  dictated: ["dictations", "unitsOf", "unitMap"],
  bank: ["bank", "wordList", "withinReach", "sounds"],
  sheets: ["keptSheets"],
  printed: ["printedSheets"],
  children: [
    "classes",
    "map",
    "child",
    "story",
    "today",
    "erased",
    "queue",
    "rows",
    "eachSheets",
    "printedSheets",
    "pile",
  ],
} satisfies Record<string, Kind[]>;

export type Change = keyof typeof STALE;

const root = (kind: Kind): unknown => (keys[kind] as (...given: unknown[]) => QueryKey)()[0];

/**
 * Fetch anew, when they are next looked at, all answers that a change makes untrue. One that is asked for the
 * first time just now may be of before the change: it is called off, or it would count as fetched anew.
 */
export function wentStale(client: QueryClient, change: Change) {
  for (const kind of STALE[change]) {
    const queryKey = [root(kind)];
    void client.invalidateQueries({ queryKey });
    const predicate = ({ state }: Query) => state.data === undefined;
    void client
      .cancelQueries({ queryKey, predicate })
      .then(() => client.refetchQueries({ queryKey, predicate, type: "active" }));
  }
}

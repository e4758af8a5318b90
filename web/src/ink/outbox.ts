import {
  type AttemptIn,
  api,
  got,
  type KeptAttempt,
  Problem,
  type Row,
  type StrokeInk,
  type Support,
} from "@/api/client";
import { sendFromTablet } from "./fromTablet";
import { put, remove, type Waiting, type WaitingWord, waitingHere } from "./shelf";

/*
 * Attempts and words that have left the pen but not yet reached the records. They are kept on this device
 * before they are sent, and stay until the server has them, whatever happens to either side in between.
 */

/** One that the records will never take, with what they said: its child has been erased, for one. */
export type Refused = { name: string; why: string; ink: StrokeInk[] };

const AGAIN_MS = 2500;
const ASK_AGAIN = new Set([401, 408, 425, 429]); // no refusal: not just now, or whoever sends has to come in first

let waiting: Waiting[] = [];
let refused: Refused[] = [];
let sending: Promise<void> | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
let kept: (rowId: number, attempt: KeptAttempt) => Promise<void> = async () => {};
let keptOfTablet: (one: Waiting, toWrite: Support[]) => void = () => {};

type Listener = () => void;
const listeners = new Set<Listener>();

export function watch(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** All that waits: a value that changes whenever any of it does, for a screen to watch. */
export const shelf = () => waiting;

/** Called with every attempt that the records have taken, before it leaves the outbox. */
export function whenKept(tell: typeof kept) {
  kept = tell;
}

/** Called with whatever a tablet has sent and the records have taken, before it leaves the outbox. */
export function whenTabletKept(tell: typeof keptOfTablet) {
  keptOfTablet = tell;
}

function have(next: Waiting[]) {
  waiting = next;
  document.documentElement.dataset.waiting = String(next.length);
  for (const listener of listeners) listener();
}

const tell = () => have([...waiting]);

/** What was left on this device when the page was last closed. */
const left: Promise<void> = waitingHere()
  .then((found) => have([...found, ...waiting.filter((one) => !found.some(({ name }) => name === one.name))]))
  .catch(() => tell()); // nothing is kept here, so nothing was left

const inkOf = (one: Waiting) =>
  "attempt" in one ? one.attempt.strokes : "strokes" in one ? one.strokes : [];

async function send(one: Waiting): Promise<void> {
  if (one.tablet) {
    keptOfTablet(one, await sendFromTablet(one));
  } else if ("attempt" in one) {
    const path = { row_id: one.rowId };
    const attempt = await got(
      api.POST("/api/rows/{row_id}/attempts", { params: { path }, body: one.attempt }),
    );
    await kept(one.rowId, attempt);
  } else if ("wordId" in one) {
    await sendWord(one);
  }
}

/** Send a word; one that has other ink already (written on two screens) becomes another of the same text. */
async function sendWord({ wordId, startedAt, strokes }: WaitingWord): Promise<void> {
  const putInk = (word_id: number, word_started_at: string) =>
    got(
      api.PUT("/api/written/{word_id}/ink", {
        params: { path: { word_id } },
        body: { strokes, word_started_at },
      }),
    );
  try {
    await putInk(wordId, startedAt);
  } catch (error) {
    if (!(error instanceof Problem && error.status === 409)) throw error;
    const known = await got(api.GET("/api/written/{word_id}", { params: { path: { word_id: wordId } } }));
    if (known.started_at !== startedAt) throw error; // another word has this number by now
    const body = { child_id: known.child.id, text: known.text };
    const another = await got(api.POST("/api/written", { body }));
    await putInk(another.id, another.started_at);
  }
}

const isRefusal = (error: unknown): error is Problem =>
  error instanceof Problem && error.status >= 400 && error.status < 500 && !ASK_AGAIN.has(error.status);

async function sendAll(): Promise<void> {
  await left;
  const turnedAway: Refused[] = [];
  const toSend = () => waiting.find((one) => !turnedAway.some(({ name }) => name === one.name));
  for (let next = toSend(); next; next = toSend()) {
    try {
      await send(next);
    } catch (error) {
      if (isRefusal(error)) {
        turnedAway.push({ name: next.name, why: error.message, ink: inkOf(next) });
        continue; // it stays here until a person decides, and holds up nothing
      }
      clearTimeout(timer);
      timer = setTimeout(flush, AGAIN_MS);
      return;
    }
    if (waiting.includes(next)) await takeOut(next.name); // or it was crossed out meanwhile, and goes once more
  }
  refused = turnedAway;
}

/** Let go of one; where the device cannot, it is sent once more some day, and the records know it. */
async function takeOut(name: string) {
  have(waiting.filter((one) => one.name !== name)); // at once, or it would be seen twice
  await remove(name).catch(() => {});
}

/** Send what waits; called again by itself until nothing does. */
export function flush(): Promise<void> {
  sending ??= sendAll().finally(() => {
    sending = null;
    tell();
  });
  return sending;
}

/**
 * Keep something here, then send it.
 *
 * True once it is safe: on this device, or else in the records. Otherwise it is as if it had not been
 * tried: the ink is still the caller's to hold.
 */
async function keep(one: Waiting, page?: string): Promise<boolean> {
  const here = await put(one, page).then(
    () => true,
    () => false,
  );
  have([...waiting.filter(({ name }) => name !== one.name), one]); // shown as written once it is safe
  if (here) {
    void flush();
    return true;
  }
  await flush();
  const stillWaits = waiting.some(({ name }) => name === one.name);
  if (stillWaits) have(waiting.filter(({ name }) => name !== one.name));
  return !stillWaits;
}

/** A row or a word by its number, and when it was begun: numbers of what was erased are given again. */
type Sheet = Pick<Row, "id" | "started_at">;
type Where = { tablet?: boolean };

/** Keep an attempt here, then send it. */
export const post = (row: Sheet, attempt: AttemptIn, page: string, where: Where = {}) =>
  keep(
    {
      name: attempt.key,
      rowId: row.id,
      attempt: { ...attempt, row_started_at: row.started_at },
      ...where,
    },
    page,
  );

/** Keep here which attempt a child likes best, then send it from its tablet. */
export const postBest = (row: Sheet, key: string) =>
  keep({
    name: `best ${row.id} ${row.started_at}`,
    bestOf: row.id,
    startedAt: row.started_at,
    key,
    tablet: true,
  });

/** Keep a word here, then send it. */
export const postWord = (word: Sheet, strokes: StrokeInk[], page: string, where: Where = {}) =>
  keep(
    {
      name: `word ${word.id} ${word.started_at}`,
      wordId: word.id,
      startedAt: word.started_at,
      strokes,
      ...where,
    },
    page,
  );

const crossing = (word: Sheet) => `crossed ${word.id} ${word.started_at}`;

/** Keep a line through a word here, then send it from its tablet: after the word itself. */
export const postCrossedOut = (word: Sheet) =>
  keep({ name: crossing(word), crossedWord: word.id, startedAt: word.started_at, tablet: true });

export const crossingWaits = (word: Sheet) => waiting.some(({ name }) => name === crossing(word));

/** The attempts of a row that wait here; another row may once have had its number. */
export const waitingFor = (row: Sheet): AttemptIn[] =>
  waiting.flatMap((one) =>
    "attempt" in one && one.rowId === row.id && one.attempt.row_started_at === row.started_at
      ? [one.attempt]
      : [],
  );

export const wordWaiting = (word: Sheet): StrokeInk[] | null =>
  waiting.find(
    (one): one is WaitingWord & Where =>
      "wordId" in one && one.wordId === word.id && one.startedAt === word.started_at,
  )?.strokes ?? null;

/** Cross out the latest attempt of a row that still waits here; false when none does. */
export async function crossOutWaiting(row: Sheet, where: Where = {}): Promise<boolean> {
  const last = waitingFor(row).findLast((one) => !one.crossed_out);
  if (!last) return false;
  const crossed = { name: last.key, rowId: row.id, attempt: { ...last, crossed_out: true }, ...where };
  have(waiting.map((one) => (one.name === last.key ? crossed : one)));
  await put(crossed).catch(() => {});
  return true;
}

/** What the records would not take when it was last sent. */
export const refusals = () => refused;

/** Throw away what the records would not take. */
export function throwAway(name: string) {
  refused = refused.filter((one) => one.name !== name);
  void takeOut(name);
}

/** How many attempts and words are still to reach the records. */
export const waitingCount = () => waiting.length - refused.length;

// whatever page is opened first on this device sends what another left behind
void left.then(() => {
  if (waiting.length) void flush();
});

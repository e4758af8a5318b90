import {
  type Attempt,
  type AttemptIn,
  api,
  got,
  Problem,
  type Row,
  type StrokeInk,
  type Word,
} from "@/api/client";

/**
 * Attempts and words that have left the pen but not yet reached the records. They are put here before they
 * are sent, and stay until the server has them, whatever happens to either side in between.
 */
type Waiting = { rowId: number; attempt: AttemptIn } | WaitingWord;
type WaitingWord = { wordId: number; startedAt: string; strokes: StrokeInk[] };

/** One that the records will never take, with what they said: its child has been erased, for one. */
export type Refused = { name: string; why: string; ink: StrokeInk[] };

const SHELF = "first-loop.outbox";
const AGAIN_MS = 2500;

/** All that waits, as it is kept: a value that changes whenever any of it does, for a screen to watch. */
export const shelf = () => localStorage.getItem(SHELF) ?? "[]";

const read = () => JSON.parse(shelf()) as Waiting[];
const write = (waiting: Waiting[]) => localStorage.setItem(SHELF, JSON.stringify(waiting));

type Listener = () => void;
const listeners = new Set<Listener>();
let sending: Promise<void> | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
let refused: Refused[] = [];
let kept: (rowId: number, attempt: Attempt) => Promise<void> = async () => {};

/** Called with every attempt that the records have taken, before it leaves the outbox. */
export function whenKept(tell: typeof kept) {
  kept = tell;
}

const tell = () => {
  for (const listener of listeners) listener();
};

const nameOf = (one: Waiting) => ("attempt" in one ? one.attempt.key : `word ${one.wordId} ${one.startedAt}`);
const inkOf = (one: Waiting) => ("attempt" in one ? one.attempt.strokes : one.strokes);

async function send(one: Waiting): Promise<void> {
  if ("attempt" in one) {
    const path = { row_id: one.rowId };
    const attempt = await got(
      api.POST("/api/rows/{row_id}/attempts", { params: { path }, body: one.attempt }),
    );
    await kept(one.rowId, attempt);
  } else {
    await sendWord(one);
  }
}

/** Send a word; one that has other ink already (written on two screens) becomes another of the same text. */
async function sendWord({ wordId, startedAt, strokes }: WaitingWord): Promise<void> {
  const put = (word_id: number, word_started_at: string) =>
    got(
      api.PUT("/api/written/{word_id}/ink", {
        params: { path: { word_id } },
        body: { strokes, word_started_at },
      }),
    );
  try {
    await put(wordId, startedAt);
  } catch (error) {
    if (!(error instanceof Problem && error.status === 409)) throw error;
    const known = await got(api.GET("/api/written/{word_id}", { params: { path: { word_id: wordId } } }));
    if (known.started_at !== startedAt) throw error; // another word has this number by now
    const body = { child_id: known.child.id, text: known.text };
    const another = await got(api.POST("/api/written", { body }));
    await put(another.id, another.started_at);
  }
}

const isRefusal = (error: unknown): error is Problem =>
  error instanceof Problem && error.status >= 400 && error.status < 500;

async function sendAll(): Promise<void> {
  const turnedAway: Refused[] = [];
  const toSend = () => read().find((one) => !turnedAway.some(({ name }) => name === nameOf(one)));
  for (let next = toSend(); next; next = toSend()) {
    const name = nameOf(next);
    try {
      await send(next);
    } catch (error) {
      if (isRefusal(error)) {
        turnedAway.push({ name, why: error.message, ink: inkOf(next) });
        continue; // it stays here until a person decides, and holds up nothing
      }
      clearTimeout(timer);
      timer = setTimeout(flush, AGAIN_MS);
      return;
    }
    takeOut(name);
  }
  refused = turnedAway;
}

function takeOut(name: string) {
  write(read().filter((one) => nameOf(one) !== name));
  tell();
}

/** Send what waits; called again by itself until nothing does. */
export function flush(): Promise<void> {
  sending ??= sendAll().finally(() => {
    sending = null;
    tell();
  });
  return sending;
}

function keep(one: Waiting): Promise<void> {
  write([...read(), one]);
  tell();
  return flush();
}

/** Keep an attempt here, then send it. */
export const post = (row: Row, attempt: AttemptIn) =>
  keep({ rowId: row.id, attempt: { ...attempt, row_started_at: row.started_at } });

/** Keep a word here, then send it. */
export const postWord = (word: Word, strokes: StrokeInk[]) =>
  keep({ wordId: word.id, startedAt: word.started_at, strokes });

/** The attempts of a row that wait here; another row may once have had its number. */
export const waitingFor = (row: Row): AttemptIn[] =>
  read().flatMap((one) =>
    "attempt" in one && one.rowId === row.id && one.attempt.row_started_at === row.started_at
      ? [one.attempt]
      : [],
  );

export const wordWaiting = (word: Word): StrokeInk[] | null =>
  read().find(
    (one): one is WaitingWord =>
      "wordId" in one && one.wordId === word.id && one.startedAt === word.started_at,
  )?.strokes ?? null;

/** Cross out the latest attempt of a row that still waits here; false when none does. */
export function crossOutWaiting(row: Row): boolean {
  const last = waitingFor(row).findLast((one) => !one.crossed_out);
  if (!last) return false;
  const crossed = { rowId: row.id, attempt: { ...last, crossed_out: true } };
  write(read().map((one) => (nameOf(one) === last.key ? crossed : one)));
  tell();
  return true;
}

/** What the records would not take when it was last sent. */
export const refusals = () => refused;

/** Throw away what the records would not take. */
export function throwAway(name: string) {
  refused = refused.filter((one) => one.name !== name);
  takeOut(name);
}

/** How many attempts and words are still to reach the records. */
export const waitingCount = () => read().length - refused.length;

export function watch(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

import { type Attempt, type AttemptIn, api, got, Problem, type StrokeInk } from "@/api/client";

/**
 * Attempts and words that have left the pen but not yet reached the records. They are put here before they
 * are sent, and stay until the server has them, whatever happens to either side in between.
 */
type Waiting = { rowId: number; attempt: AttemptIn } | WaitingWord;
type WaitingWord = { wordId: number; strokes: StrokeInk[] };

const SHELF = "first-loop.outbox";
const AGAIN_MS = 2500;

const read = (): Waiting[] => JSON.parse(localStorage.getItem(SHELF) ?? "[]") as Waiting[];
const write = (waiting: Waiting[]) => localStorage.setItem(SHELF, JSON.stringify(waiting));

type Listener = () => void;
const listeners = new Set<Listener>();
let sending: Promise<void> | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
let refused: string | null = null;
let kept: (rowId: number, attempt: Attempt) => void = () => {};

/** Called with every attempt that the records have taken, before it leaves the outbox. */
export function whenKept(tell: typeof kept) {
  kept = tell;
}

const tell = () => {
  for (const listener of listeners) listener();
};

const nameOf = (one: Waiting) => ("attempt" in one ? one.attempt.key : `word ${one.wordId}`);

async function send(one: Waiting): Promise<void> {
  if ("attempt" in one) {
    const path = { row_id: one.rowId };
    kept(
      one.rowId,
      await got(api.POST("/api/rows/{row_id}/attempts", { params: { path }, body: one.attempt })),
    );
  } else {
    await sendWord(one);
  }
}

/** Send a word; one that has other ink already (written on two screens) becomes another of the same text. */
async function sendWord({ wordId, strokes }: WaitingWord): Promise<void> {
  const put = (word_id: number) =>
    got(api.PUT("/api/written/{word_id}/ink", { params: { path: { word_id } }, body: { strokes } }));
  try {
    await put(wordId);
  } catch (error) {
    if (!(error instanceof Problem && error.status === 409)) throw error;
    const known = await got(api.GET("/api/written/{word_id}", { params: { path: { word_id: wordId } } }));
    const body = { child_id: known.child.id, text: known.text };
    await put((await got(api.POST("/api/written", { body }))).id);
  }
}

async function sendAll(): Promise<void> {
  for (let next = read()[0]; next; next = read()[0]) {
    const name = nameOf(next);
    try {
      await send(next);
      refused = null;
    } catch (error) {
      if (error instanceof Problem && error.status > 0) refused = error.message;
      clearTimeout(timer);
      timer = setTimeout(flush, AGAIN_MS);
      return;
    }
    write(read().filter((one) => nameOf(one) !== name));
    tell();
  }
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
export const post = (rowId: number, attempt: AttemptIn) => keep({ rowId, attempt });

/** Keep a word here, then send it. */
export const postWord = (wordId: number, strokes: StrokeInk[]) => keep({ wordId, strokes });

export const waitingFor = (rowId: number): AttemptIn[] =>
  read().flatMap((one) => ("attempt" in one && one.rowId === rowId ? [one.attempt] : []));

export const wordWaiting = (wordId: number): StrokeInk[] | null =>
  read().find((one): one is WaitingWord => "wordId" in one && one.wordId === wordId)?.strokes ?? null;

/** What the server said when it would not take an attempt, or null. */
export const refusal = () => refused;

/** How many attempts and words wait in all; a number, so that a screen can watch it. */
export const waitingCount = () => read().length;

export function watch(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

import { type Attempt, type AttemptIn, api, got, Problem } from "@/api/client";

/**
 * Attempts that have left the pen but not yet reached the records. They are put here before they
 * are sent, and stay until the server has them, whatever happens to either side in between.
 */
type Waiting = { rowId: number; attempt: AttemptIn };

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

async function sendAll(): Promise<void> {
  for (let next = read()[0]; next; next = read()[0]) {
    const { rowId, attempt } = next;
    try {
      const taken = await got(
        api.POST("/api/rows/{row_id}/attempts", { params: { path: { row_id: rowId } }, body: attempt }),
      );
      refused = null;
      kept(rowId, taken);
    } catch (error) {
      if (error instanceof Problem && error.status > 0) refused = error.message;
      clearTimeout(timer);
      timer = setTimeout(flush, AGAIN_MS);
      return;
    }
    write(read().filter((one) => one.attempt.key !== attempt.key));
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

/** Keep an attempt here, then send it. */
export function post(rowId: number, attempt: AttemptIn): Promise<void> {
  write([...read(), { rowId, attempt }]);
  tell();
  return flush();
}

export const waitingFor = (rowId: number): AttemptIn[] =>
  read().flatMap((one) => (one.rowId === rowId ? [one.attempt] : []));

/** What the server said when it would not take an attempt, or null. */
export const refusal = () => refused;

/** How many attempts wait in all; a number, so that a screen can watch it. */
export const waitingCount = () => read().length;

export function watch(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

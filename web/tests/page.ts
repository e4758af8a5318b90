import { vi } from "vitest";
import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import type { AttemptIn, Row, StrokeInk, Word } from "@/api/client";

/*
 * A page as the outbox knows one, without a browser: what is kept on the device stays from one page to the
 * next, and the server is whatever a test lets it be.
 */

type Answer = { status: number; body?: unknown };
/** What the server does when it is asked; "away" is a network that fails. */
export type Server = (
  method: string,
  path: string,
  body: unknown,
) => Answer | "away" | Promise<Answer | "away">;

const ORIGIN = "http://school";

class AnyRequest extends Request {
  constructor(asked: RequestInfo | URL, more?: RequestInit) {
    super(typeof asked === "string" ? new URL(asked, ORIGIN) : asked, more);
  }
}

export function newDevice() {
  vi.restoreAllMocks();
  vi.stubGlobal("indexedDB", new IDBFactory());
  const before = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (name: string) => before.get(name) ?? null,
    setItem: (name: string, value: string) => before.set(name, value),
    removeItem: (name: string) => before.delete(name),
  });
  vi.stubGlobal("document", { documentElement: { dataset: {} } });
  vi.stubGlobal("Request", AnyRequest);
  serve(() => "away");
}

let server: Server = () => "away";

/** From here on the server answers so. */
export function serve(answers: Server) {
  server = answers;
}

let pages = 0;

/** What a page asks with; once it is closed it hears nothing any more. */
const asking = (page: number) => async (request: Request) => {
  if (page !== pages) return new Promise<Response>(() => {});
  const text = await request.text();
  const answer = await server(request.method, new URL(request.url).pathname, text ? JSON.parse(text) : null);
  if (answer === "away") throw new TypeError("network");
  return Response.json(answer.body ?? {}, { status: answer.status });
};

/** Open a page anew; the one before it is as good as closed. */
export async function openPage() {
  vi.resetModules();
  vi.stubGlobal("fetch", asking(++pages));
  const shelf = await import("@/ink/shelf");
  const outbox = await import("@/ink/outbox");
  return { ...outbox, ...shelf };
}

/** From here on nothing more can be kept on this device. */
export function deviceIsFull() {
  vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
}

export const INK: StrokeInk[] = [{ x: [1, 2], y: [3, 4], t: [0, 8], f: [0.5, 0.5] }];
export const row = { id: 7, started_at: "2026-11-27T09:00:00Z" } as Row;
export const word = { id: 3, started_at: "2026-11-27T09:05:00Z", text: "tide", child: { id: 1 } } as Word;
export const attempt = (key: string) =>
  ({
    key,
    strokes: INK,
    support: "alone",
    written_at: "2026-11-27T09:01:00Z",
    crossed_out: false,
  }) as AttemptIn;

import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { attempt, deviceIsFull, INK, newDevice, openPage, row, serve, word } from "./page";

const TAKEN = { status: 201, body: { id: 1 } };
const AGAIN_MS = 2500;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
  newDevice();
});
afterEach(() => {
  vi.useRealTimers();
});

const sent = (body: unknown) => (body as { key: string }).key;

test("an attempt is on the device before it is sent, and leaves it once the records have it", async () => {
  const page = await openPage();
  const seen: string[] = [];
  serve(async (method, path, body) => {
    seen.push(`${method} ${path} ${sent(body)}`);
    expect((await page.waitingHere()).map(({ name }) => name)).toEqual(["one"]);
    return TAKEN;
  });
  page.whenKept(async (rowId) => {
    seen.push(`kept in ${rowId} while ${page.waitingCount()} waits`);
  });
  expect(await page.post(row, attempt("one"), "write/1")).toBe(true);
  await page.flush();
  expect(seen).toEqual(["POST /api/rows/7/attempts one", "kept in 7 while 1 waits"]);
  expect(page.waitingCount()).toBe(0);
  expect(await page.waitingHere()).toEqual([]);
});

test("while the server is away all waits, in the order it was written, and is sent by itself later", async () => {
  const page = await openPage();
  let away = true;
  const seen: string[] = [];
  serve((_, __, body) => {
    if (away) return "away";
    seen.push(sent(body));
    return TAKEN;
  });
  for (const key of ["one", "two", "three"]) expect(await page.post(row, attempt(key), "p")).toBe(true);
  await page.flush();
  expect(page.waitingFor(row).map(({ key }) => key)).toEqual(["one", "two", "three"]);
  expect(document.documentElement.dataset.waiting).toBe("3");
  away = false;
  await vi.advanceTimersByTimeAsync(AGAIN_MS);
  await vi.waitFor(() => expect(page.waitingCount()).toBe(0));
  expect(seen).toEqual(["one", "two", "three"]);
});

test("what a page left behind is sent by the page that comes next", async () => {
  serve(() => "away");
  const first = await openPage();
  await first.post(row, attempt("one"), "p");
  await first.flush();
  const seen: string[] = [];
  serve((_, __, body) => {
    seen.push(sent(body));
    return TAKEN;
  });
  const next = await openPage();
  await vi.waitFor(() => expect(seen).toEqual(["one"]));
  await vi.waitFor(async () => expect(await next.waitingHere()).toEqual([]));
});

test.each([408, 425, 429, 500, 503])("status %d is no refusal: it is sent again", async (status) => {
  const page = await openPage();
  serve(() => ({ status }));
  await page.post(row, attempt("one"), "p");
  await page.flush();
  expect(page.refusals()).toEqual([]);
  expect(page.waitingCount()).toBe(1);
});

test.each([404, 409, 422])("status %d is told with its words, and holds up nothing", async (status) => {
  const page = await openPage();
  const seen: string[] = [];
  serve((_, __, body) => {
    if (sent(body) === "erased") return { status, body: { detail: "This child is gone." } };
    seen.push(sent(body));
    return TAKEN;
  });
  await page.post(row, attempt("erased"), "p");
  await page.post(row, attempt("two"), "p");
  await page.flush();
  await page.flush();
  expect(seen).toEqual(["two"]);
  expect(page.refusals()).toEqual([{ name: "erased", why: "This child is gone.", ink: INK }]);
  expect(page.waitingCount()).toBe(0);
  expect((await page.waitingHere()).map(({ name }) => name)).toEqual(["erased"]); // until a person decides
  page.throwAway("erased");
  expect(page.refusals()).toEqual([]);
  await vi.waitFor(async () => expect(await page.waitingHere()).toEqual([]));
});

test("on a full device an attempt is safe only once the records have it", async () => {
  const page = await openPage();
  deviceIsFull();
  serve(() => TAKEN);
  expect(await page.post(row, attempt("one"), "p")).toBe(true);
  serve(() => "away");
  expect(await page.post(row, attempt("two"), "p")).toBe(false);
  expect(page.waitingFor(row)).toEqual([]); // as if it had not been tried: the ink is still the caller's
});

test("one key is one attempt, however often it is posted", async () => {
  const page = await openPage();
  serve(() => "away");
  await page.post(row, attempt("one"), "p");
  await page.post(row, { ...attempt("one"), crossed_out: true }, "p");
  expect(page.waitingFor(row)).toHaveLength(1);
  expect(await page.waitingHere()).toHaveLength(1);
});

test("what waits can be crossed out, latest first, also for the page that comes next", async () => {
  const page = await openPage();
  serve(() => "away");
  expect(await page.crossOutWaiting(row)).toBe(false);
  await page.post(row, attempt("one"), "p");
  await page.post(row, attempt("two"), "p");
  const crossed = () => page.waitingFor(row).map((one) => one.crossed_out);
  expect(await page.crossOutWaiting(row)).toBe(true);
  expect(crossed()).toEqual([false, true]);
  await page.crossOutWaiting(row);
  expect(crossed()).toEqual([true, true]);
  expect(await page.crossOutWaiting(row)).toBe(false);
  const next = await openPage();
  await next.flush();
  expect(next.waitingFor(row).map((one) => one.crossed_out)).toEqual([true, true]);
});

test("what waits for a row is not shown in another that has its number now", async () => {
  const page = await openPage();
  serve(() => "away");
  await page.post(row, attempt("one"), "p");
  expect(page.waitingFor({ ...row, started_at: "2026-11-28T09:00:00Z" })).toEqual([]);
});

test("a word that has other ink already becomes another of the same text", async () => {
  const page = await openPage();
  const seen: string[] = [];
  serve((method, path, body) => {
    seen.push(`${method} ${path}`);
    if (method === "GET") return { status: 200, body: word };
    if (method === "POST") {
      expect(body).toEqual({ child_id: 1, text: "tide" });
      return { status: 201, body: { ...word, id: 4, started_at: "later" } };
    }
    return path.includes("/3/")
      ? { status: 409, body: { detail: "There is ink." } }
      : { status: 200, body: {} };
  });
  await page.postWord(word, INK, "p");
  await page.flush();
  expect(seen).toEqual([
    "PUT /api/written/3/ink",
    "GET /api/written/3",
    "POST /api/written",
    "PUT /api/written/4/ink",
  ]);
  expect(page.wordWaiting(word)).toBeNull();
});

test("a word whose number another has by now is refused, its ink kept", async () => {
  const page = await openPage();
  serve((method) =>
    method === "GET" ? { status: 200, body: { ...word, started_at: "other" } } : { status: 409, body: {} },
  );
  await page.postWord(word, INK, "p");
  await page.flush();
  await page.flush();
  expect(page.refusals()).toHaveLength(1);
  expect(page.wordWaiting(word)).toEqual(INK);
});

test("ink under the pen is let go of in the moment it is kept as an attempt, and not before", async () => {
  const page = await openPage();
  serve(() => "away");
  const draft = { page: "write/1", address: "/write/1", what: "n", strokes: INK };
  await page.keepDraft(draft);
  expect(await page.draftOf("write/1")).toEqual(draft);
  await page.post(row, attempt("one"), "another page");
  expect(await page.drafts()).toEqual([draft]);
  await page.post(row, attempt("two"), "write/1");
  expect(await page.drafts()).toEqual([]);
  await page.keepDraft(draft);
  await page.keepDraft({ ...draft, strokes: [] }); // nothing under the pen is no draft
  expect(await page.drafts()).toEqual([]);
});

test("ink under the pen of a page that goes before the device has it is found by the next page, once", async () => {
  const draft = { page: "write/1", address: "/write/1", what: "n", strokes: INK };
  const kept = await openPage();
  await kept.keepDraft({ ...draft, page: "write/2" });
  kept.leaveDrafts(); // nothing is left of what the device has
  const slow = vi // it never comes to an end
    .spyOn(IDBFactory.prototype, "open")
    .mockReturnValue(new IDBRequest() as IDBOpenDBRequest);
  const page = await openPage();
  void page.keepDraft({ ...draft, strokes: [...INK, ...INK] });
  void page.keepDraft(draft);
  page.leaveDrafts();
  slow.mockRestore();
  const next = await openPage();
  await next.dropDraft("write/2");
  expect(await next.draftOf("write/1")).toEqual(draft);
  await next.post(row, attempt("one"), "write/1");
  expect(await next.drafts()).toEqual([]);
});

test("a device that is full still tells what it has, and what was left stays until there is room", async () => {
  const draft = { page: "write/1", address: "/write/1", what: "n", strokes: INK };
  const first = await openPage();
  await first.keepDraft(draft);
  deviceIsFull();
  first.keepDraft({ ...draft, page: "write/2" }).catch(() => {});
  first.leaveDrafts();
  const full = await openPage();
  expect(await full.drafts()).toEqual([draft]);
  vi.restoreAllMocks();
  expect(await (await openPage()).drafts()).toEqual([draft, { ...draft, page: "write/2" }]);
});

test("what an earlier First Loop left elsewhere is moved over, once", async () => {
  const old = [
    { rowId: 7, attempt: attempt("one") },
    { wordId: 3, startedAt: word.started_at, strokes: INK },
    { rowId: 7 },
  ];
  localStorage.setItem("first-loop.outbox", JSON.stringify(old));
  serve(() => "away");
  const page = await openPage();
  await page.flush();
  const names = ["one", `word 3 ${word.started_at}`];
  expect((await page.waitingHere()).map(({ name }) => name)).toEqual(names);
  expect(localStorage.getItem("first-loop.outbox")).toBeNull();
  const next = await openPage();
  await next.flush();
  expect(next.waitingCount()).toBe(2);
});

test.each([1, 2, 3, 4])(
  "in an unlucky world everything arrives once and in order (seed %d)",
  async (seed) => {
    let state = seed * 7919;
    const chance = (share: number) => {
      state = (state * 1103515245 + 12345) % 2147483648;
      return state / 2147483648 < share;
    };
    const records: string[] = [];
    serve((_, __, body) => {
      if (chance(0.25)) return "away";
      if (chance(0.15)) return { status: 503 };
      if (!records.includes(sent(body))) records.push(sent(body));
      return chance(0.2) ? "away" : TAKEN; // taken, but nobody heard
    });
    let page = await openPage();
    const written: string[] = [];
    for (let i = 0; i < 40; i++) {
      const key = `attempt ${i}`;
      expect(await page.post(row, attempt(key), "p")).toBe(true);
      written.push(key);
      if (chance(0.3)) await page.flush();
      if (chance(0.1)) page = await openPage();
    }
    for (let i = 0; i < 400 && page.waitingCount(); i++) await page.flush();
    expect(records).toEqual(written);
    expect(await page.waitingHere()).toEqual([]);
  },
);

test("what is crossed out while it is being sent reaches the records crossed out", async () => {
  const page = await openPage();
  const seen: unknown[] = [];
  serve(async (_, __, body) => {
    seen.push((body as { crossed_out: boolean }).crossed_out);
    if (seen.length === 1) expect(await page.crossOutWaiting(row)).toBe(true);
    return TAKEN;
  });
  await page.post(row, attempt("one"), "p");
  await page.flush();
  expect(seen).toEqual([false, true]);
  expect(await page.waitingHere()).toEqual([]);
});

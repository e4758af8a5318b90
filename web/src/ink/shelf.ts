import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { AttemptIn, StrokeInk } from "@/api/client";

/** An attempt or a word that has left the pen and has not reached the records. `name` tells it from others. */
export type Waiting = (WaitingAttempt | WaitingWord | WaitingBest | WaitingLine) & {
  /** Written on a child's tablet: it goes to the tablet's own doors. */
  tablet?: boolean;
};
type WaitingAttempt = { name: string; rowId: number; attempt: AttemptIn };
export type WaitingWord = { name: string; wordId: number; startedAt: string; strokes: StrokeInk[] };
/** The child's best of a row, by the attempt's key. */
export type WaitingBest = { name: string; bestOf: number; startedAt: string; key: string };
/** A line through a word. */
type WaitingLine = { name: string; crossedWord: number; startedAt: string };

/** Ink still under the pen: on which page, and where it is gone on with. */
export type Draft = { page: string; address: string; what: string; strokes: StrokeInk[] };

interface Kept extends DBSchema {
  waiting: { key: number; value: Waiting; indexes: { name: string } };
  drafts: { key: string; value: Draft };
  tablet: { key: string; value: unknown };
}

const VERSION = 2;
const BEFORE = "first-loop.outbox"; // where it was kept before, in another form
const LEFT = "first-loop.under-pen"; // what a page had under the pen that went before the device had it

let opened: Promise<IDBPDatabase<Kept>> | null = null;

/** What is kept on this device; it stays through a reload, a flat battery, a week. */
function device(): Promise<IDBPDatabase<Kept>> {
  opened ??= openDB<Kept>("first-loop", VERSION, {
    upgrade(db, from) {
      if (from < 1) {
        const waiting = db.createObjectStore("waiting", { autoIncrement: true });
        waiting.createIndex("name", "name", { unique: true });
        db.createObjectStore("drafts", { keyPath: "page" });
      }
      db.createObjectStore("tablet");
    },
    blocking: (_, __, event) => (event.target as IDBDatabase).close(),
    terminated: () => {
      opened = null;
    },
  });
  opened.catch(() => {
    opened = null;
  });
  return opened;
}

type Old = {
  attempt?: AttemptIn;
  rowId?: number;
  wordId?: number;
  startedAt?: string;
  strokes?: StrokeInk[];
};

function fromBefore(one: Old): Waiting[] {
  if (one.attempt && one.rowId !== undefined) {
    return [{ name: one.attempt.key, rowId: one.rowId, attempt: one.attempt }];
  }
  const { wordId, startedAt, strokes } = one;
  return wordId !== undefined && startedAt && strokes
    ? [{ name: `word ${wordId} ${startedAt}`, wordId, startedAt, strokes }]
    : [];
}

/** Move over what an earlier First Loop left elsewhere, once. */
async function moveOver() {
  const left = localStorage.getItem(BEFORE);
  if (!left) return;
  const here = new Set((await all()).map((one) => one.name));
  for (const one of (JSON.parse(left) as Old[]).flatMap(fromBefore)) if (!here.has(one.name)) await put(one);
  localStorage.removeItem(BEFORE);
}

const all = async () => (await device()).getAll("waiting");

/** Everything that waits, in the order it was written. */
export async function waitingHere(): Promise<Waiting[]> {
  await moveOver();
  return all();
}

/** End a change: nothing is added any more. It is kept even if the page goes before it hears that it is. */
async function ended(change: { commit: () => void; done: Promise<void> }, asked: unknown[]): Promise<void> {
  change.commit();
  await Promise.all([...asked, change.done]);
}

/** Keep something that waits, in place of what has its name, and let go of the draft it was: both or neither. */
export async function put(one: Waiting, page?: string): Promise<void> {
  const change = (await device()).transaction(["waiting", "drafts"], "readwrite", { durability: "strict" });
  const waiting = change.objectStore("waiting");
  const known = await waiting.index("name").getKey(one.name);
  const done = [waiting.put(one, known), page && change.objectStore("drafts").delete(page)];
  await ended(change, done);
}

/** Let go of what the records have. */
export async function remove(name: string): Promise<void> {
  const change = (await device()).transaction("waiting", "readwrite");
  const known = await change.store.index("name").getKey(name);
  await ended(change, known === undefined ? [] : [change.store.delete(known)]);
}

const notYetKept = new Map<string, Draft>();

/** Keep what is under the pen; nothing under it is no draft. */
export async function keepDraft(draft: Draft): Promise<void> {
  notYetKept.set(draft.page, draft);
  const change = (await device()).transaction("drafts", "readwrite");
  const done = draft.strokes.length ? change.store.put(draft) : change.store.delete(draft.page);
  await ended(change, [done]);
  if (notYetKept.get(draft.page) === draft) notYetKept.delete(draft.page);
}

const leftHere = () => JSON.parse(localStorage.getItem(LEFT) ?? "[]") as Draft[];

/** The page goes: what the device has not taken yet is left where nothing has to be waited for. */
export function leaveDrafts() {
  if (notYetKept.size) localStorage.setItem(LEFT, JSON.stringify([...leftHere(), ...notYetKept.values()]));
}

/** The page that had gone is back, and keeps its drafts itself. */
export const takeBackDrafts = () => localStorage.removeItem(LEFT);

/** What cannot be kept now stays left; what the device has already can be read all the same. */
async function keepWhatWasLeft() {
  try {
    for (const one of leftHere()) await keepDraft(one);
    takeBackDrafts();
  } catch {
    // the device is full, or has no shelf
  }
}

/** What a tablet was last told, so that it can go on without a network. */
export const keepTablet = async (page: unknown) => (await device()).put("tablet", page, "page");
export const keptTablet = async () => (await device()).get("tablet", "page");

export const dropDraft = async (page: string) => (await device()).delete("drafts", page);
export async function draftOf(page: string): Promise<Draft | undefined> {
  await keepWhatWasLeft();
  return (await device()).get("drafts", page);
}

export async function drafts(): Promise<Draft[]> {
  await keepWhatWasLeft();
  return (await device()).getAll("drafts");
}

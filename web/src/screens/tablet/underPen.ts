import { api, type StrokeInk, type TabletSheet } from "@/api/client";
import { asTablet } from "@/ink/fromTablet";

const EVERY_MS = 600;

let next: { sheet: TabletSheet; strokes: StrokeInk[] } | null = null;
let waits = false;

/**
 * Let the teacher see what is under the pen, stroke by stroke. It is a courtesy: where it does not arrive nothing
 * is lost, for what counts is kept and sent when the letter is ended.
 */
export function showUnderPen(sheet: TabletSheet, strokes: StrokeInk[]) {
  next = { sheet, strokes: structuredClone(strokes) };
  if (!waits) setTimeout(send, EVERY_MS);
  waits = true;
}

async function send() {
  waits = false;
  const now = next;
  next = null;
  if (!now) return;
  const { kind, id } = now.sheet;
  const body = { [kind === "row" ? "row_id" : "word_id"]: id, strokes: now.strokes };
  await api.PUT("/api/tablet/under-pen", { body, ...asTablet() }).catch(() => {});
}

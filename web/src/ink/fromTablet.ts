import { api, got, type Support } from "@/api/client";
import type { Waiting } from "./shelf";

/*
 * How a child's tablet sends: through its own doors, with the token it was given when it came into a room.
 * A tablet that comes in anew sends what it kept with its new one.
 */

const TOKEN = "first-loop.tablet";

export const tabletToken = () => localStorage.getItem(TOKEN);
export const keepToken = (token: string) => localStorage.setItem(TOKEN, token);
export const dropToken = () => localStorage.removeItem(TOKEN);

export const asTablet = () => ({ headers: { Authorization: `Bearer ${tabletToken() ?? ""}` } });

/** Send one thing that waits; when the records have it for good, what is still to be written on its sheet. */
export async function sendFromTablet(one: Waiting): Promise<Support[]> {
  if ("attempt" in one) {
    const params = { path: { row_id: one.rowId } };
    const path = "/api/tablet/rows/{row_id}/attempts";
    return (await got(api.POST(path, { params, body: one.attempt, ...asTablet() }))).to_write;
  }
  if ("bestOf" in one) {
    const params = { path: { row_id: one.bestOf } };
    const body = { key: one.key, row_started_at: one.startedAt };
    await got(api.PUT("/api/tablet/rows/{row_id}/best", { params, body, ...asTablet() }));
  } else if ("crossedWord" in one) {
    const params = { path: { word_id: one.crossedWord } };
    const body = { word_started_at: one.startedAt };
    await got(api.PUT("/api/tablet/words/{word_id}/crossed-out", { params, body, ...asTablet() }));
  } else {
    const params = { path: { word_id: one.wordId } };
    const body = { strokes: one.strokes, word_started_at: one.startedAt };
    await got(api.PUT("/api/tablet/words/{word_id}/ink", { params, body, ...asTablet() }));
  }
  return [];
}

import { useEffect, useRef, useState } from "react";
import type { StrokeInk } from "@/api/client";
import { type Draft, draftOf, dropDraft, keepDraft, leaveDrafts, takeBackDrafts } from "@/ink/shelf";
import type { Pen } from "@/ink/usePen";

type Page = Omit<Draft, "strokes">;

window.addEventListener("pagehide", leaveDrafts);
window.addEventListener("pageshow", (event) => event.persisted && takeBackDrafts());

/** Keep what is under the pen on this device as it grows; one that cannot keeps it on the paper only. */
export const keepUnderPen = (page: Page, strokes: StrokeInk[]) =>
  void keepDraft({ ...page, strokes: structuredClone(strokes) }).catch(() => {});

/** Bring back what was under the pen when the page was left. */
export function useDraft(pen: Pen, { page }: Page, writable: boolean) {
  const { restore } = pen;
  useEffect(() => {
    if (!writable) {
      void dropDraft(page).catch(() => {}); // the row is full: there is no place for it any more
      return;
    }
    let here = true;
    draftOf(page)
      .then((draft) => {
        if (here && draft) restore(draft.strokes);
      })
      .catch(() => {});
    return () => {
      here = false;
    };
  }, [page, writable, restore]);
}

export const freshKey = () => crypto.randomUUID?.() ?? `${Date.now()}-${Math.random()}`;

/**
 * Ending a letter or a word: its ink is taken off the paper once it is safe, and never before.
 *
 * `unkept` says that it could not be kept. The same ink tried once more has the key it had, so that it is
 * one attempt even if the first try reached the records after all.
 */
export function useKeeping(pen: Pen) {
  const [keeping, setKeeping] = useState(false);
  const [unkept, setUnkept] = useState(false);
  const at = useRef({ busy: false, key: "", strokes: 0 });
  const last = useRef<Promise<void>>(Promise.resolve());
  const keep = (send: (key: string, strokes: StrokeInk[]) => Promise<boolean>) => {
    if (!at.current.busy) last.current = keepNow(send);
    return last.current;
  };
  const keepNow = async (send: (key: string, strokes: StrokeInk[]) => Promise<boolean>) => {
    at.current.busy = true;
    setKeeping(true);
    const strokes = structuredClone(pen.ink());
    if (!at.current.key || at.current.strokes !== strokes.length) at.current.key = freshKey();
    at.current.strokes = strokes.length;
    try {
      const safe = await send(at.current.key, strokes);
      if (safe) {
        at.current.key = "";
        pen.drop(strokes.length);
      }
      setUnkept(!safe);
    } finally {
      at.current.busy = false;
      setKeeping(false);
    }
  };
  /** Waits until what was ended last is safe, or is not. */
  const settled = () => last.current;
  return { keeping, unkept, keep, settled };
}

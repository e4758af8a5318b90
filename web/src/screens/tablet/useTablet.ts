import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from "react";
import { api, type ChildsPage, got, Problem, type Support, type TabletSheet } from "@/api/client";
import { asTablet, dropToken, keepToken, tabletToken } from "@/ink/fromTablet";
import { flush, waitingCount, watch, whenTabletKept } from "@/ink/outbox";
import { keepTablet, keptTablet, type Waiting } from "@/ink/shelf";

const AGAIN_MS = 2500;
const TELL_AFTER_MS = 1500; // what is on its way for a moment only is not told

export type Tablet = {
  /** What it was last told; null while it is in no room. Undefined until it is known which. */
  page: ChildsPage | null | undefined;
  offline: boolean;
  unsent: number;
  join: (code: string) => Promise<void>;
  takeName: (childId: number) => Promise<void>;
  leave: () => Promise<void>;
};

const withAttempts = (
  page: ChildsPage,
  sheet: TabletSheet,
  attempts: unknown[],
  to_write: TabletSheet["to_write"],
): ChildsPage => ({
  ...page,
  sheet: { ...sheet, attempts: attempts as TabletSheet["attempts"], to_write },
});

/** What has just been sent stands on the sheet from now on, whether First Loop is asked again or not. */
function withKept(page: ChildsPage, one: Waiting, toWrite: Support[]): ChildsPage {
  const { sheet } = page;
  if (!sheet) return page;
  if ("attempt" in one && sheet.kind === "row" && sheet.id === one.rowId) {
    const { key, strokes, crossed_out = false } = one.attempt;
    const before = sheet.attempts.find((other) => other.key === key);
    const others = sheet.attempts.filter((other) => other.key !== key);
    const attempts = before
      ? sheet.attempts.map((other) => (other.key === key ? { ...other, crossed_out } : other))
      : [...others, { key, strokes, crossed_out, best: false }];
    return withAttempts(page, sheet, attempts, toWrite);
  }
  if ("bestOf" in one && sheet.kind === "row" && sheet.id === one.bestOf) {
    const attempts = sheet.attempts.map((other) => ({ ...other, best: other.key === one.key }));
    return withAttempts(page, sheet, attempts, sheet.to_write);
  }
  if ("wordId" in one && sheet.kind === "word" && sheet.id === one.wordId) {
    const attempts = [{ key: one.name, strokes: one.strokes, crossed_out: false, best: false }];
    return withAttempts(page, sheet, attempts, []);
  }
  if ("crossedWord" in one && sheet.kind === "word" && sheet.id === one.crossedWord) {
    const attempts = sheet.attempts.map((other) => ({ ...other, crossed_out: true }));
    return withAttempts(page, sheet, attempts, []);
  }
  return page;
}

/**
 * The tablet's line to First Loop: it waits there for what is handed out, and says what it still keeps. What it
 * was last told is kept on it, so that it goes on when the network is gone or the page is opened anew.
 */
export function useTablet(): Tablet {
  const [page, setPage] = useState<ChildsPage | null | undefined>(undefined);
  const [offline, setOffline] = useState(false);
  const unsent = useSyncExternalStore(watch, waitingCount);
  const told = useRef(0); // the number of unsent that First Loop knows
  const ask = useRef<() => void>(() => {});

  const take = useCallback((next: ChildsPage | null) => {
    setPage(next);
    void keepTablet(next).catch(() => {}); // a tablet that can keep nothing goes on all the same
  }, []);

  useEffect(() => {
    let here = true;
    let news = "0";
    let waits: AbortController | undefined;
    whenTabletKept((one, toWrite) =>
      setPage((now) => {
        const next = now ? withKept(now, one, toWrite) : now;
        if (next && next !== now) void keepTablet(next).catch(() => {});
        return next;
      }),
    );
    const pause = () => new Promise((done) => setTimeout(done, AGAIN_MS));
    const askOnce = async () => {
      waits = new AbortController();
      told.current = waitingCount();
      const query = { after: Number(news), unsent: told.current };
      const asked = api.GET("/api/tablet/now", {
        params: { query },
        signal: waits.signal,
        ...asTablet(),
      });
      const found = await got(asked);
      news = (await asked).response.headers.get("News") ?? "0";
      setOffline(false);
      void flush();
      if (here) take(found);
    };
    const goOn = async () => {
      const kept = (await keptTablet().catch(() => undefined)) as ChildsPage | null | undefined;
      if (here) setPage(tabletToken() ? (kept ?? undefined) : null);
      while (here) {
        if (!tabletToken()) {
          await new Promise<void>((done) => {
            ask.current = done;
          });
          news = "0";
        }
        try {
          await askOnce();
        } catch (error) {
          if (waits?.signal.aborted) continue; // there is something to tell
          if (error instanceof Problem && error.status === 401) {
            dropToken();
            take(null);
          } else {
            setOffline(true);
            await pause();
          }
        }
      }
    };
    void goOn();
    const tellAgain = setInterval(() => {
      if (waitingCount() !== told.current) waits?.abort();
    }, TELL_AFTER_MS);
    const online = () => waits?.abort();
    window.addEventListener("online", online);
    return () => {
      here = false;
      waits?.abort();
      clearInterval(tellAgain);
      window.removeEventListener("online", online);
    };
  }, [take]);

  return {
    page,
    offline,
    unsent,
    join: async (code) => {
      const joined = await got(api.POST("/api/tablet/join", { body: { code } }));
      keepToken(joined.token);
      void navigator.storage?.persist?.(); // what is kept here is not to be cleared away by the browser
      take(joined.page);
      ask.current();
    },
    takeName: async (child_id) => {
      take(await got(api.PUT("/api/tablet/name", { body: { child_id }, ...asTablet() })));
    },
    leave: async () => {
      await got(api.POST("/api/tablet/leave", { ...asTablet() })).catch(() => {});
      dropToken();
      take(null);
    },
  };
}

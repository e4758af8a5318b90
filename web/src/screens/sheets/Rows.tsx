import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import type { SheetPreview, SheetRow, SheetWish } from "@/api/client";
import { Button } from "@/ui/Button";
import { RowEditor } from "./RowEditor";
import { moved, NEW_ROWS, typedOf } from "./rows";

type Props = {
  wish: SheetWish;
  preview: SheetPreview | undefined;
  row: number | null;
  onRow: (row: number | null) => void;
  onWish: (wish: SheetWish) => void;
};

const ADD = [
  ["letters", "Add letters"],
  ["words", "Add words"],
  ["line", "Add a line"],
  ["empty", "Empty lines"],
] as const;
const MORE = [
  ["date", "Long date"],
  ["recall", "Recall row"],
  ["gaps", "Words with gaps"],
  ["sounds", "Sound boxes"],
  ["cards", "Cards"],
  ["heading", "A heading"],
  ["draw", "A box to draw in"],
] as const;

/** The rows of a sheet as words: dragged into another order, changed in place, added and taken out. */
export function Rows({ wish, preview, row, onRow, onWish }: Props) {
  const list = useRef<HTMLUListElement>(null);
  const put = (rows: SheetRow[], chosen: number | null) => {
    onRow(chosen);
    onWish({ ...wish, rows });
  };
  const move = (from: number, to: number) => {
    if (to < 0 || to >= wish.rows.length || to === from) return;
    put(moved(wish.rows, from, to), to);
    requestAnimationFrame(() => list.current?.querySelectorAll<HTMLElement>("[data-handle]")[to]?.focus());
  };
  const { dragged, over, pick } = useDragging(move);
  const add = (kind: string) => {
    const made = NEW_ROWS[kind];
    if (made) put([...wish.rows, made], wish.rows.length);
  };
  return (
    <section aria-label="Rows" className="border-t-2 border-ink pt-2">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <b>Rows</b>
        <span className="text-small text-graphite">
          {preview
            ? `${preview.pages.length === 1 ? "one page" : `${preview.pages.length} pages`}; ${preview.room}`
            : ""}
        </span>
      </p>
      <ul ref={list}>
        {wish.rows.map((one, at) => {
          const said = preview?.rows.length === wish.rows.length ? preview.rows[at] : undefined;
          const title = said?.title ?? (typedOf(one) || "…");
          return (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: rows have no name of their own, and may be alike
              key={at}
              data-row={at}
              className={clsx(
                "border-b border-hair",
                row === at && "bg-ochre/35",
                dragged !== null && over === at && "border-t-2 border-t-brick",
              )}
            >
              <div className="flex items-center gap-2">
                <button
                  type="button"
                  data-handle
                  aria-label={`Move row ${at + 1}, ${title}`}
                  className="cursor-grab touch-none px-1 py-2 text-graphite"
                  onPointerDown={(event) => pick(at, event)}
                  onKeyDown={(event) => {
                    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
                    if (!by) return;
                    event.preventDefault();
                    move(at, at + by);
                  }}
                >
                  ⋮⋮
                </button>
                <button
                  type="button"
                  aria-expanded={row === at}
                  onClick={() => onRow(row === at ? null : at)}
                  className="flex min-w-0 flex-1 items-baseline gap-3 py-2 text-left"
                >
                  <b className="w-36 shrink-0 truncate">{title}</b>
                  <span className="min-w-0 flex-1 truncate">{said?.goes}</span>
                  <span className="text-small whitespace-nowrap text-graphite">{said?.fits}</span>
                </button>
                <button
                  type="button"
                  aria-label={`Take row ${at + 1}, ${title}, out`}
                  onClick={() =>
                    put(
                      wish.rows.filter((_, i) => i !== at),
                      null,
                    )
                  }
                  className="size-8 rounded-sm text-brick hover:bg-ochre/40"
                >
                  ×
                </button>
              </div>
              {row === at && (
                <RowEditor row={one} onRow={(next) => onWish({ ...wish, rows: wish.rows.with(at, next) })} />
              )}
            </li>
          );
        })}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        {ADD.map(([kind, words]) => (
          <Button key={kind} onClick={() => add(kind)}>
            {words}
          </Button>
        ))}
        <select
          aria-label="Add something else"
          value=""
          onChange={(event) => add(event.target.value)}
          className="h-10 rounded-sm border border-pale bg-sheet px-2"
        >
          <option value="">Something else…</option>
          {MORE.map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </select>
      </div>
    </section>
  );
}

/** Carrying a row by its handle, with a mouse, a finger or a pen. */
function useDragging(onDrop: (from: number, to: number) => void) {
  const [dragged, setDragged] = useState<number | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const from = useRef<number | null>(null);
  const drop = useRef(onDrop);
  drop.current = onDrop;
  useEffect(() => {
    const rowAt = (event: PointerEvent) => {
      const found = document
        .elementFromPoint(event.clientX, event.clientY)
        ?.closest<HTMLElement>("[data-row]");
      return found ? Number(found.dataset.row) : null;
    };
    const moving = (event: PointerEvent) => {
      if (from.current === null) return;
      setDragged(from.current);
      setOver(rowAt(event));
    };
    const ended = (event: PointerEvent) => {
      const start = from.current;
      from.current = null;
      setDragged(null);
      setOver(null);
      const to = rowAt(event);
      if (event.type === "pointerup" && start !== null && to !== null) drop.current(start, to);
    };
    window.addEventListener("pointermove", moving);
    window.addEventListener("pointerup", ended);
    window.addEventListener("pointercancel", ended);
    return () => {
      window.removeEventListener("pointermove", moving);
      window.removeEventListener("pointerup", ended);
      window.removeEventListener("pointercancel", ended);
    };
  }, []);
  const pick = (at: number, event: React.PointerEvent) => {
    (event.currentTarget as HTMLElement).releasePointerCapture?.(event.pointerId);
    from.current = at;
  };
  return { dragged, over, pick };
}

import { useEffect, useRef, useState } from "react";

export type Carried = { letter: string; from: string; x: number; y: number };
export type Carrying = {
  carried: Carried | null;
  /** Key of the family under the carried letter. */
  over: string | null;
  pick: (letter: string, from: string, event: React.PointerEvent) => void;
};

const STARTS_PX = 6;

const familyAt = (x: number, y: number) =>
  document.elementFromPoint(x, y)?.closest("[data-family]")?.getAttribute("data-family") ?? null;

/** The first letter of a family that stands to the right of a place; none where it comes last. */
function letterAfter(x: number, family: string, carried: string): string {
  const all = document.querySelectorAll<HTMLElement>(`[data-family="${CSS.escape(family)}"] [data-letter]`);
  for (const one of all) {
    const { left, right } = one.getBoundingClientRect();
    const char = one.dataset.letter ?? "";
    if (char !== carried && (left + right) / 2 > x) return char;
  }
  return "";
}

/** Carrying a letter along its family or to another, or a family itself, with a mouse, a finger or a pen. */
export function useCarrying(onDrop: (letter: string, family: string, before: string) => void): Carrying {
  const [carried, setCarried] = useState<Carried | null>(null);
  const [over, setOver] = useState<string | null>(null);
  const picked = useRef<{ letter: string; from: string; x: number; y: number } | null>(null);
  const drop = useRef(onDrop);
  drop.current = onDrop;

  useEffect(() => {
    const move = (event: PointerEvent) => {
      const start = picked.current;
      if (!start) return;
      if (Math.hypot(event.clientX - start.x, event.clientY - start.y) < STARTS_PX) return;
      setCarried({ letter: start.letter, from: start.from, x: event.clientX, y: event.clientY });
      setOver(familyAt(event.clientX, event.clientY));
    };
    const end = (event: PointerEvent) => {
      const start = picked.current;
      picked.current = null;
      setCarried((now) => {
        const to = familyAt(event.clientX, event.clientY);
        if (now && start && to && to !== start.letter && event.type === "pointerup") {
          const before = letterAfter(event.clientX, to, start.letter);
          queueMicrotask(() => drop.current(start.letter, to, before));
        }
        return null;
      });
      setOver(null);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", end);
    window.addEventListener("pointercancel", end);
    return () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", end);
      window.removeEventListener("pointercancel", end);
    };
  }, []);

  return {
    carried,
    over,
    pick: (letter, from, event) => {
      event.preventDefault();
      (event.currentTarget as HTMLElement).focus();
      picked.current = { letter, from, x: event.clientX, y: event.clientY };
    },
  };
}

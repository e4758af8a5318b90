import { useEffect, useState } from "react";
import type { SheetWish } from "@/api/client";

/** The sheet on the table, before it is printed or kept: the kept sheet it was taken from, the child it is for. */
export type Draft = {
  name: string;
  wish: SheetWish;
  kept?: number | undefined;
  child?: number | undefined;
};

const STEPS_MOST = 60;
const place = (classId: number) => `first-loop.sheet.${classId}`;

function remembered(classId: number): Draft[] {
  try {
    const steps = JSON.parse(sessionStorage.getItem(place(classId)) ?? "[]");
    return Array.isArray(steps) ? steps : [];
  } catch {
    return [];
  }
}

/** The sheet on the table with all steps before it: it survives a reload, and every step can be taken back. */
export function useDraft(classId: number) {
  const [steps, setSteps] = useState(() => remembered(classId));
  useEffect(() => {
    try {
      sessionStorage.setItem(place(classId), JSON.stringify(steps));
    } catch {
      // without room it lives as long as the page
    }
  }, [classId, steps]);
  return {
    draft: steps.at(-1),
    canUndo: steps.length > 1,
    put: (draft: Draft) => setSteps((before) => [...before, draft].slice(-STEPS_MOST)),
    undo: () => setSteps((before) => (before.length > 1 ? before.slice(0, -1) : before)),
  };
}

export type Table = ReturnType<typeof useDraft>;

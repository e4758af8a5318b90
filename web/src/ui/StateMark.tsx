import type { State } from "@/api/client";

export const STATE_WORDS: Record<State, string> = {
  "not-started": "not started",
  learning: "learning",
  secure: "secure",
  slipping: "slipping",
};

/** How a letter stands, for maps: pale while it is learnt, full ink when secure, outlined when it slips. */
export function StateMark({ state, due = false }: { state: State; due?: boolean }) {
  return (
    <svg width={22} height={16} viewBox="0 0 22 16" aria-hidden="true">
      {state === "not-started" && <line x1={8} x2={14} y1={8} y2={8} stroke="var(--color-faint)" />}
      {state === "learning" && <rect x={3} y={3} width={16} height={10} rx={2} fill="var(--color-pale)" />}
      {state === "secure" && <rect x={3} y={3} width={16} height={10} rx={2} fill="var(--color-ink)" />}
      {state === "slipping" && (
        <rect
          x={4}
          y={4}
          width={14}
          height={8}
          rx={2}
          fill="var(--color-pale)"
          stroke="var(--color-brick)"
          strokeWidth={2}
        />
      )}
      {due && (
        <line
          x1={3}
          x2={19}
          y1={15.2}
          y2={15.2}
          stroke="var(--color-graphite)"
          strokeWidth={1.2}
          strokeDasharray="2 2"
        />
      )}
    </svg>
  );
}

/** What the marks mean. */
export function StateKey() {
  const states: State[] = ["learning", "secure", "slipping"];
  return (
    <ul className="flex flex-wrap gap-x-4 text-small text-graphite">
      {states.map((state) => (
        <li key={state} className="flex items-center gap-1">
          <StateMark state={state} /> {STATE_WORDS[state]}
        </li>
      ))}
      <li className="flex items-center gap-1">
        <StateMark state="learning" due /> due again
      </li>
    </ul>
  );
}

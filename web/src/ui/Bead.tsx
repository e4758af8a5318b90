import type { Verdict } from "@/api/client";

export const WORDS: Record<Verdict, string> = {
  secure: "secure",
  near: "near",
  fix: "fix",
  "not-seen": "not seen",
  unreadable: "not read",
};

/** The mark of a verdict: a bead and its line. Secure sits on the line, near is half, fix stands off it. */
export function BeadMark({ verdict }: { verdict: Verdict }) {
  const open = verdict === "fix" || verdict === "unreadable";
  return (
    <g strokeWidth={1.6}>
      <line x1={-14} x2={14} y1={5} y2={5} stroke="var(--color-line)" />
      {verdict === "secure" && <circle r={4.5} fill="var(--color-ink)" />}
      {verdict === "near" && (
        <>
          <circle r={4.5} fill="var(--color-paper)" stroke="var(--color-ink)" />
          <path d="M -4.5 0 A 4.5 4.5 0 0 0 4.5 0 Z" fill="var(--color-ink)" />
        </>
      )}
      {open && <circle cy={-4} r={4.5} fill="var(--color-paper)" stroke="var(--color-brick)" />}
      {verdict === "not-seen" && <line x1={-5} x2={5} y1={-1} y2={-1} stroke="var(--color-graphite)" />}
    </g>
  );
}

/** A bead by itself, named by its word unless the word stands beside it. */
export function Bead({ verdict, silent = false }: { verdict: Verdict; silent?: boolean }) {
  return silent ? (
    <svg width={30} height={18} viewBox="-15 -10 30 18" aria-hidden="true">
      <BeadMark verdict={verdict} />
    </svg>
  ) : (
    <svg width={30} height={18} viewBox="-15 -10 30 18" role="img" aria-label={WORDS[verdict]}>
      <BeadMark verdict={verdict} />
    </svg>
  );
}

import type { SheetRow, WritingRow } from "@/api/client";

export const HELPS = ["model", "trace", "finish", "ring", "alone"] as const;
export type Help = (typeof HELPS)[number];
/** How a row goes: how many of each help from left to right, and what goes on until the line is full. */
export type Goes = { counts: Record<Help, number>; fill: Help | null };

export const FADING = "model trace* / model finish* / ring* / alone*";
export const USUAL = "model trace trace finish alone*";

/** A pattern as counts; null where it is another on the rows below, or its helps are in another order. */
export function readGoes(pattern: string): Goes | null {
  const words = pattern.trim().split(/\s+/);
  const counts = Object.fromEntries(HELPS.map((help) => [help, 0])) as Record<Help, number>;
  let fill: Help | null = null;
  let last = 0;
  for (const word of words) {
    const help = word.replace(/\*$/, "") as Help;
    const at = HELPS.indexOf(help);
    if (at < last) return null;
    last = at;
    if (word.endsWith("*")) fill = help;
    else counts[help] += 1;
  }
  return { counts, fill };
}

export function writeGoes({ counts, fill }: Goes): string {
  const words = HELPS.flatMap((help) => Array<string>(counts[help]).fill(help));
  if (fill) words.push(`${fill}*`);
  return words.join(" ") || "alone*";
}

/** What is typed for a row: letters and words by spaces; a line of several words is one text. */
export const textsOf = (typed: string, asLine: boolean): string[] => {
  const clean = typed.trim().replace(/\s+/g, " ");
  if (!clean) return [];
  return asLine ? [clean] : clean.split(" ");
};

export const isLine = (row: WritingRow) => row.texts.some((text) => text.includes(" "));

export const typedOf = (row: SheetRow): string => {
  switch (row.kind) {
    case "writing":
    case "gaps":
    case "cards":
      return row.texts.join(" ");
    case "sounds":
      return row.words.map((word) => word.text).join(" ");
    case "heading":
      return row.text;
    default:
      return "";
  }
};

export const NEW_ROWS: Record<string, SheetRow> = {
  letters: { kind: "writing", texts: ["n"], pattern: USUAL, rows: 1, together: false, cut: false },
  words: {
    kind: "writing",
    texts: ["nest"],
    pattern: "model trace alone*",
    rows: 1,
    together: false,
    cut: false,
  },
  line: {
    kind: "writing",
    texts: ["a nest"],
    pattern: "model / trace / alone",
    rows: 3,
    together: false,
    cut: false,
  },
  empty: { kind: "writing", texts: [], pattern: "alone*", rows: 1, together: false, cut: false },
  date: { kind: "date", pattern: "trace", rows: 1 },
  recall: {
    kind: "writing",
    texts: ["n", "m", "h"],
    pattern: "model alone alone",
    rows: 1,
    together: true,
    cut: false,
  },
  gaps: { kind: "gaps", texts: ["n[e]st"] },
  sounds: { kind: "sounds", words: [{ text: "nest", boxes: 4 }] },
  cards: { kind: "cards", texts: ["n", "m", "h"], across: 3 },
  heading: { kind: "heading", text: "Write each one twice" },
  draw: { kind: "draw", height_mm: 60 },
};

export const moved = <T>(list: readonly T[], from: number, to: number): T[] => {
  const next = [...list];
  const [one] = next.splice(from, 1);
  if (one !== undefined) next.splice(to, 0, one);
  return next;
};

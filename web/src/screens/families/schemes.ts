import type { SchemeKey } from "@/api/client";

/** Ways to group letters, and what each goes by. */
export const SCHEMES: { value: SchemeKey | "by-sound"; words: string }[] = [
  { value: "by-movement", words: "movement" },
  { value: "by-first-move", words: "first move" },
  { value: "by-height", words: "height" },
  { value: "by-join", words: "join" },
  { value: "by-sound", words: "sound order" },
];

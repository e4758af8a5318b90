import type { Seen } from "@/api/client";
import { momentFormat } from "@/app/days";

/** What can be seen while a child writes on paper, and the key that logs it. */
export const SEEN: { seen: Seen; words: string; key: string }[] = [
  { seen: "bottom", words: "Began at the bottom", key: "B" },
  { seen: "direction", words: "Went the wrong way", key: "W" },
  { seen: "lift", words: "Lifted", key: "L" },
  { seen: "order", words: "Wrong order", key: "O" },
  { seen: "fine", words: "Fine", key: "F" },
];

const when = momentFormat({ day: "numeric", month: "short" });

export const wordsOf = (seen: Seen) => SEEN.find((one) => one.seen === seen)?.words.toLowerCase() ?? seen;

/** Notes in a few words, the latest first. */
export const notesInWords = (notes: { seen: Seen; at: string }[], most: number) =>
  notes
    .slice(0, most)
    .map((note) => `${wordsOf(note.seen)} ${when(note.at)}`)
    .join(" · ");

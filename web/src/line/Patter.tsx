import clsx from "clsx";
import type { TextModel } from "@/api/client";

type Phrase = TextModel["patter"][number];

const lasts = (phrase: Phrase) => Math.max(phrase.to_ms, phrase.from_ms + 1);

/** The phrase being said at a time; after the end none. */
export const saidAt = (letter: TextModel, at: number) =>
  at >= letter.duration_ms
    ? -1
    : letter.patter.findLastIndex((phrase) => at >= phrase.from_ms && at <= lasts(phrase));

/** The words of a letter, each lit as the pen reaches it; choosing one goes to its end. */
export function Patter(props: { letter: TextModel; at: number; onSay: (ms: number) => void }) {
  const { letter, at, onSay } = props;
  const current = saidAt(letter, at);
  return (
    <section aria-label="Words" className="border-t-2 border-ink pt-2">
      <ol>
        {letter.patter.map((phrase, i) => (
          <li key={`${phrase.stroke} ${phrase.first_move} ${phrase.is_start}`}>
            <button
              type="button"
              aria-current={i === current ? "step" : undefined}
              onClick={() => onSay(phrase.to_ms)}
              className={clsx(
                "block w-full rounded-sm px-2 text-left text-large",
                i === current ? "bg-ochre" : at > phrase.to_ms ? "text-ink" : "text-graphite",
              )}
            >
              {phrase.text}
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}

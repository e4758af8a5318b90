import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { Word } from "@/api/client";
import { useCrossOutWord, useLookAtWords } from "@/api/written";
import { useKeys } from "@/app/useKeys";
import { dayOf, WordFindings, WordStrip } from "@/screens/write/WordResult";
import { Button } from "@/ui/Button";

type Step = { looked: number[] } | { crossed: number };
type Props = {
  /** Words that wait, latest first. */
  words: Word[];
  /** The word that has the keys; none while a row has them. */
  chosen: number | null;
  onChoose: (wordId: number | null) => void;
  /** Up from the first word. */
  onAbove: () => void;
};

const wordElement = (id: number) => document.querySelector<HTMLElement>(`[data-word="${id}"]`);
const idsOf = (some: Word[]) => some.map((word) => word.id);

/** Words with the day each was written on, one entry a day, in the order in which they come. */
function byDay(words: Word[]): [day: string, ofDay: Word[]][] {
  const days = new Map<string, Word[]>();
  for (const word of words) days.set(dayOf(word), [...(days.get(dayOf(word)) ?? []), word]);
  return [...days];
}

/** Words of the queue: looked at or crossed out by the keys of the rows, and left where they stand. */
export function QueueWords({ words, chosen, onChoose, onAbove }: Props) {
  const [shown, setShown] = useState(words);
  const fresh = words.filter((word) => !shown.some((one) => one.id === word.id));
  if (fresh.length) setShown([...shown, ...fresh]);
  const waiting = new Set(idsOf(words));
  const now = new Map(words.map((word) => [word.id, word]));
  const steps = useLookAtWords();
  const cross = useCrossOutWord();
  const done = useRef<Step[]>([]);
  const [canUndo, setCanUndo] = useState(false);
  const [crossed, setCrossed] = useState<ReadonlySet<number>>(new Set());
  useEffect(() => {
    if (chosen === null) return;
    wordElement(chosen)?.focus({ preventScroll: true });
    wordElement(chosen)?.closest("li")?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const kept = (step: Step) => {
    done.current.push(step);
    setCanUndo(true);
  };
  const at = shown.findIndex((word) => word.id === chosen);
  const next = () => {
    const others = [...shown.slice(at + 1), ...shown.slice(0, at)];
    const to = others.find((word) => waiting.has(word.id));
    if (to) onChoose(to.id);
  };
  const look = async (ids: number[]) => {
    if (!ids.length) return;
    await steps.mutateAsync({ word_ids: ids, looked_at: true });
    kept({ looked: ids });
  };
  const lookAndGoOn = () => {
    if (chosen === null || !waiting.has(chosen)) return;
    void look([chosen]);
    next();
  };
  const crossOut = async () => {
    if (chosen === null) return;
    await cross.mutateAsync({ id: chosen, crossed_out: true });
    kept({ crossed: chosen });
    setCrossed(new Set([...crossed, chosen]));
  };
  const undo = async () => {
    const last = done.current.pop();
    setCanUndo(done.current.length > 0);
    if (!last) return;
    if ("looked" in last) await steps.mutateAsync({ word_ids: last.looked, looked_at: false });
    else {
      await cross.mutateAsync({ id: last.crossed, crossed_out: false });
      setCrossed(new Set([...crossed].filter((id) => id !== last.crossed)));
    }
  };
  const along = (by: number) => {
    const to = shown[at + by];
    if (to) onChoose(to.id);
    else if (by < 0) {
      onChoose(null);
      onAbove();
    }
  };
  useKeys(
    chosen === null
      ? {}
      : {
          ArrowDown: () => along(1),
          ArrowRight: () => along(1),
          ArrowUp: () => along(-1),
          ArrowLeft: () => along(-1),
          a: lookAndGoOn,
          n: next,
          c: () => void crossOut(),
          u: () => void undo(),
        },
  );
  const even = words.filter((word) => word.result && !word.to_say.length);
  const problem = steps.error ?? cross.error;
  return (
    <section aria-label="Words to look at" className="mb-6">
      <header className="mb-1 flex flex-wrap items-end gap-x-3 border-b-2 border-ink pb-1">
        <h2 className="font-bold">Words</h2>
        <p role="status" className="text-small text-graphite">
          {words.length === 1 ? "1 waits" : `${words.length} wait`}
          {problem && <span className="text-brick"> {problem.message}</span>}
        </p>
        <span className="ml-auto" />
        {even.length > 0 && (
          <Button onClick={() => void look(idsOf(even))}>Looked at the {even.length} all secure</Button>
        )}
        <Button disabled={!words.length} onClick={() => void look(idsOf(words))}>
          Looked at all
        </Button>
        <Button disabled={!canUndo} onClick={() => void undo()}>
          Undo
        </Button>
      </header>
      {byDay(shown).map(([day, ofDay]) => (
        <section key={day} aria-label={`Words, ${day}`}>
          <h3 className="pt-1 text-graphite">{day}</h3>
          <ol className="grid grid-cols-2 gap-x-6 max-[900px]:grid-cols-1">
            {ofDay.map((one) => {
              const word = now.get(one.id) ?? one;
              return (
                <li
                  key={word.id}
                  className={clsx(
                    "min-w-0 scroll-my-24 rounded-sm border px-2 pt-1 pb-2",
                    word.id === chosen ? "border-ink bg-sheet" : "border-transparent",
                  )}
                >
                  <div className="flex flex-wrap items-baseline gap-x-3">
                    <button
                      type="button"
                      data-word={word.id}
                      tabIndex={word.id === (chosen ?? shown[0]?.id) ? 0 : -1}
                      aria-pressed={word.id === chosen}
                      onFocus={() => onChoose(word.id)}
                      onClick={() => onChoose(word.id)}
                      className="font-bold"
                    >
                      {word.child.name}, {word.text}
                    </button>
                    <Link
                      to={`/children/${word.child.id}/words`}
                      className="text-small underline decoration-pale underline-offset-4"
                    >
                      all of {word.child.first_name}’s words
                    </Link>
                    <span className="ml-auto text-small text-graphite">
                      {crossed.has(word.id) ? "crossed out" : !waiting.has(word.id) && "looked at"}
                    </span>
                  </div>
                  <WordStrip word={word} least={1300} />
                  <WordFindings word={word} />
                  {word.id === chosen && (
                    <div className="mt-1 flex gap-2">
                      <Button shortcut="A" disabled={!waiting.has(word.id)} onClick={lookAndGoOn}>
                        Looked at
                      </Button>
                      <Button shortcut="C" disabled={!waiting.has(word.id)} onClick={() => void crossOut()}>
                        Cross out
                      </Button>
                    </div>
                  )}
                </li>
              );
            })}
          </ol>
        </section>
      ))}
    </section>
  );
}

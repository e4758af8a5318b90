import clsx from "clsx";
import { useLayoutEffect, useReducer, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Dictation } from "@/api/client";
import { useDictation, useDictationSteps } from "@/api/dictations";
import { dayFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useKeys } from "@/app/useKeys";
import { sheetAddress } from "@/screens/sheets/address";
import { Button, LINK, LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { BoxesMarked } from "./Boxes";

const short = dayFormat({ weekday: "short", day: "numeric", month: "short" });

type At = { child: number; word: number };
type Step = At & { before: number[][] };

/** A dictation: the words to read out, and child by child what is right and what to mend. */
export function DictationScreen() {
  const id = Number(useParams().dictationId);
  const query = useDictation(id);
  return (
    <Loaded query={query} what="the dictation">
      {(dictation) => <Marking dictation={dictation} />}
    </Loaded>
  );
}

function Marking({ dictation }: { dictation: Dictation }) {
  const { words, children } = dictation;
  const navigate = useNavigate();
  const { at, current, setAt, triesAt, mark, steps } = useMarks(dictation);
  const done = useRef<Step[]>([]);
  const [canUndo, setCanUndo] = useState(false);
  const cell = children[at.child]?.words[at.word];
  useLayoutEffect(() => {
    const button = document.querySelector<HTMLElement>(`[data-at="${at.child},${at.word}"]`);
    button?.focus({ preventScroll: true });
    button?.scrollIntoView({ block: "nearest" });
  }, [at]);
  // keys may come quicker than the page is drawn: each looks at where the one before it has gone
  const put = (tries: number[][]) => {
    done.current.push({ ...current(), before: triesAt(current()) });
    setCanUndo(true);
    mark(current(), tries);
  };
  const right = () => {
    const here = current();
    if (!triesAt(here).length) put([[]]);
    const next =
      here.word + 1 < words.length ? { ...here, word: here.word + 1 } : { child: here.child + 1, word: 0 };
    if (next.child < children.length) setAt(next);
  };
  /** A sound is to mend in the writing that was marked last, or is not after all. */
  const mend = (unit: number) => {
    const here = current();
    if (unit >= (words[here.word]?.boxes.length ?? 0)) return;
    const tries = triesAt(here);
    const now = tries.at(-1) ?? [];
    const next = now.includes(unit) ? now.filter((one) => one !== unit) : [...now, unit].sort();
    put([...tries.slice(0, -1), next]);
  };
  const again = () => {
    const tries = triesAt(current());
    if (tries.length === 1 && tries[0]?.length) put([...tries, []]);
    else if (tries.length === 2) put(tries.slice(0, 1));
  };
  const undo = () => {
    const step = done.current.pop();
    setCanUndo(done.current.length > 0);
    if (!step) return;
    mark(step, step.before);
    setAt({ child: step.child, word: step.word });
  };
  const go = (children_: number, words_: number) => {
    const to = { child: current().child + children_, word: current().word + words_ };
    if (to.child >= 0 && to.child < children.length && to.word >= 0 && to.word < words.length) setAt(to);
  };
  const tries = triesAt(at);
  useKeys(
    {
      Enter: right,
      ...Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => [String(n), () => mend(n - 1)])),
      l: again,
      u: undo,
      Backspace: () => triesAt(current()).length && put([]),
      ArrowRight: () => go(0, 1),
      ArrowLeft: () => go(0, -1),
      ArrowDown: () => go(1, 0),
      ArrowUp: () => go(-1, 0),
    },
    { onLetters: true },
  );
  const child = children[at.child]?.child;
  const marked = children
    .flatMap((_, c) => words.map((__, w) => triesAt({ child: c, word: w })))
    .filter((one) => one.length).length;
  const problem = steps.mark.error ?? steps.write.error ?? steps.drop.error;
  return (
    <>
      <PageHead title="Dictation" sub={short(dictation.day)} crowded>
        <LinkButton to={`/board/words/dictation?id=${dictation.id}`}>Boxes on the board</LinkButton>
        <LinkButton look="quiet" to={`/write/room?dictation=${dictation.id}`}>
          On tablets
        </LinkButton>
        <LinkButton look="quiet" to={sheetAddress({ dictation: dictation.id })}>
          Sheet for it
        </LinkButton>
        <a
          className={LINK}
          href={`/api/dictations/${dictation.id}/page.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          Page with boxes
        </a>
      </PageHead>
      <ol aria-label="Words to read out" className="mb-4 flex flex-wrap gap-x-8 gap-y-1 text-large">
        {words.map((word, i) => (
          <li key={word.text}>
            <span className="text-graphite">{i + 1}</span> <b>{word.text}</b>{" "}
            <span className="text-small text-graphite">{word.boxes.join(" · ")}</span>
          </li>
        ))}
      </ol>
      <p className="mb-2 text-small text-graphite">
        Say the word, count its sounds, write it, look. A number for a sound to mend, Enter for right; L puts
        a line through it, and it is written once more.
        {marked === 0 && (
          <>
            {" "}
            <button
              type="button"
              className={LINK}
              onClick={async () => {
                await steps.drop.mutateAsync();
                navigate("/words/dictation");
              }}
            >
              Take it back
            </button>
          </>
        )}
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by keys too */}
      <div className="-m-1 overflow-x-auto p-1" role="region" aria-label="Marks" tabIndex={0}>
        <table className="w-full border-collapse">
          <caption className="sr-only">Every word with every child</caption>
          <thead>
            <tr className="border-b border-ink text-left">
              <th scope="col" className="w-28 text-small font-normal text-graphite">
                Child
              </th>
              {words.map((word) => (
                <th key={word.text} scope="col" className="px-1">
                  {word.text}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {children.map((row, c) => (
              <tr key={row.child.id} className="border-b border-hair">
                <th scope="row" className="pr-2 text-left font-normal whitespace-nowrap">
                  {row.child.name}
                </th>
                {words.map((word, w) => {
                  const here = at.child === c && at.word === w;
                  const one = row.words[w] ?? null;
                  return (
                    <td key={word.text} className="p-0">
                      <button
                        type="button"
                        data-at={`${c},${w}`}
                        data-page-keys
                        tabIndex={here ? 0 : -1}
                        aria-pressed={here}
                        onClick={() => setAt({ child: c, word: w })}
                        className={clsx(
                          "block min-h-11 w-full rounded-sm border px-1 py-1 text-left",
                          here ? "border-ink bg-sheet" : "border-transparent",
                        )}
                      >
                        <span className="sr-only">
                          {row.child.name}, {word.text}:{" "}
                        </span>
                        <BoxesMarked units={word.boxes} tries={triesAt({ child: c, word: w })} />
                        {one?.written && (
                          <span className="block text-small text-graphite">
                            {one.formation || "formation secure"}
                          </span>
                        )}
                      </button>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="sticky bottom-0 -mb-6 mt-auto flex flex-wrap items-center gap-2 border-t border-hair bg-paper py-3 max-[900px]:static">
        <p role="status" className="mr-auto">
          <b>{child && `${child.name}, ${words[at.word]?.text}`}</b>{" "}
          <span className="text-graphite">
            {marked} of {words.length * children.length} marked
          </span>
          {problem && <span className="block text-small text-brick">{problem.message}</span>}
        </p>
        {words[at.word]?.boxes.map((box, i) => (
          <Button
            // biome-ignore lint/suspicious/noArrayIndexKey: boxes are known by their place
            key={i}
            aria-label={`${box}, sound ${i + 1}, to mend`}
            pressed={tries.at(-1)?.includes(i) ?? false}
            shortcut={String(i + 1)}
            onClick={() => mend(i)}
          >
            {box}
          </Button>
        ))}
        <Button shortcut="Enter" onClick={right}>
          Right
        </Button>
        <Button
          shortcut="L"
          pressed={tries.length === 2}
          disabled={!tries[0]?.length}
          onClick={again}
          aria-label="A line through it, and once more"
        >
          Once more
        </Button>
        <Button shortcut="U" disabled={!canUndo} onClick={undo}>
          Undo
        </Button>
        <Button
          onClick={async () => {
            if (!child) return;
            const word = await steps.write.mutateAsync({ child_id: child.id, position: at.word });
            navigate(`/write/word/${word.id}`);
          }}
        >
          {cell?.written ? "Once more on the tablet" : "On the tablet"}
        </Button>
      </div>
    </>
  );
}

/** Where the marking stands and what is marked: at once what the keys say, kept one after another. */
function useMarks(dictation: Dictation) {
  const steps = useDictationSteps(dictation.id);
  const [at, show] = useState<At>({ child: 0, word: 0 });
  const place = useRef(at);
  const own = useRef(new Map<string, number[][]>()); // marked here, and newer than what was fetched
  const [, draw] = useReducer((count: number) => count + 1, 0);
  const key = ({ child, word }: At) => `${child},${word}`;
  const setAt = (to: At) => {
    place.current = to;
    show(to);
  };
  const triesAt = (where: At) =>
    own.current.get(key(where)) ?? dictation.children[where.child]?.words[where.word]?.tries ?? [];
  const mark = (where: At, tries: number[][]) => {
    const child = dictation.children[where.child]?.child;
    if (!child) return;
    own.current.set(key(where), tries);
    draw();
    steps.mark
      .mutateAsync({ child_id: child.id, position: where.word, tries })
      .catch(() => own.current.delete(key(where))) // what went wrong is told below
      .finally(draw);
  };
  return { at, current: () => place.current, setAt, triesAt, mark, steps };
}

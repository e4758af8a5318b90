import { useEffect, useRef, useState } from "react";
import type { BankWord } from "@/api/client";
import { useBank, useBankSteps } from "@/api/words";
import { Button, LINK } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { Tick } from "@/ui/Tick";
import { BringIn } from "./BringIn";
import { Cut } from "./Cut";
import { useAsked } from "./useAsked";

/** The bank itself: searched, added to, corrected, hidden, brought in and taken out. */
export function BankPart() {
  const { get, set } = useAsked();
  const [search, setSearch] = useState(get("search"));
  const own = get("own") === "true";
  const query = useBank(search, own);
  const steps = useBankSteps();
  const [bringing, setBringing] = useState(false);
  const problem = steps.hide.error ?? steps.show.error ?? steps.undo.error;
  return (
    <>
      <div className="mb-4 flex flex-wrap items-end gap-3">
        <label>
          <span className="block text-small text-graphite">Letters of a word, or -sh- for a sound</span>
          <input
            value={search}
            maxLength={20}
            autoComplete="off"
            spellCheck={false}
            onChange={(event) => setSearch(event.target.value)}
            className="h-10 w-56 border-b-2 border-line bg-band px-2 text-large"
          />
        </label>
        <Tick on={own} onTick={(on) => set({ own: on || null })}>
          Only what the school added or corrected
        </Tick>
        <span className="ml-auto" />
        <Button onClick={() => setBringing(true)}>Bring a list in…</Button>
        <a className={LINK} href="/api/bank/list.csv">
          Take the list out (CSV)
        </a>
        <Button disabled={!query.data?.can_undo || steps.undo.isPending} onClick={() => steps.undo.mutate()}>
          Undo
        </Button>
      </div>
      {problem && (
        <p role="alert" className="mb-2 text-brick">
          {problem.message}
        </p>
      )}
      <AddWord />
      <Loaded query={query} what="the word bank">
        {(page) => (
          <>
            <p role="status" className="mt-4 border-b-2 border-ink pb-1 text-small text-graphite">
              {page.found.toLocaleString("en-GB")} of {page.total.toLocaleString("en-GB")} words
              {page.found > page.words.length && `, the first ${page.words.length}`}. Tap between two letters
              to part or join them.
            </p>
            <ul aria-label="Words of the bank" className="grid grid-cols-2 gap-x-8 max-[1000px]:grid-cols-1">
              {page.words.map((word) => (
                <BankItem key={word.text} word={word} onHide={() => steps.hide.mutate(word.text)} />
              ))}
            </ul>
            {page.hidden.length > 0 && (
              <section aria-label="Hidden words" className="mt-6">
                <h2 className="border-b-2 border-ink pb-1 font-bold">Hidden</h2>
                <p className="flex flex-wrap gap-x-4 gap-y-1 py-2">
                  {page.hidden.map((text) => (
                    <span key={text}>
                      {text}{" "}
                      <button
                        type="button"
                        aria-label={`Show ${text} again`}
                        className={LINK}
                        onClick={() => steps.show.mutate(text)}
                      >
                        show again
                      </button>
                    </span>
                  ))}
                </p>
              </section>
            )}
          </>
        )}
      </Loaded>
      <BringIn open={bringing} onOpenChange={setBringing} />
    </>
  );
}

/** What of a word a teacher changes. */
const keptOf = (word: BankWord) => ({ units: word.units.join("-"), by_heart: word.by_heart });

function BankItem({ word, onHide }: { word: BankWord; onHide: () => void }) {
  const { keep } = useBankSteps();
  const asked = useRef(keptOf(word)); // two changes may come quicker than the answer to the first
  useEffect(() => {
    asked.current = keptOf(word);
  }, [word]);
  const change = (part: Partial<ReturnType<typeof keptOf>>) => {
    asked.current = { ...asked.current, ...part };
    keep.mutate({ text: word.text, ...asked.current });
  };
  return (
    <li className="flex flex-wrap items-center gap-x-4 border-b border-hair py-1">
      <Cut text={word.text} units={word.units} places={word.places} onCut={(units) => change({ units })} />
      <span className="ml-auto flex items-center gap-3 text-small">
        {word.own && <span className="text-graphite">the school’s</span>}
        <Tick on={word.by_heart} onTick={(by_heart) => change({ by_heart })}>
          <span aria-hidden="true">by heart</span>
          <span className="sr-only">{word.text} by heart</span>
        </Tick>
        <button type="button" aria-label={`Hide ${word.text}`} className={LINK} onClick={onHide}>
          hide
        </button>
      </span>
      {keep.error && (
        <p role="alert" className="w-full text-small text-brick">
          {keep.error.message}
        </p>
      )}
    </li>
  );
}

function AddWord() {
  const { keep } = useBankSteps();
  const [text, setText] = useState("");
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate({ text: text.trim(), units: "", by_heart: false }, { onSuccess: () => setText("") });
      }}
    >
      <label>
        <span className="block text-small text-graphite">A word to add</span>
        <input
          value={text}
          maxLength={20}
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
          className="h-10 w-56 border-b-2 border-line bg-band px-2 text-large"
        />
      </label>
      <Button type="submit" disabled={!text.trim() || keep.isPending}>
        Add it
      </Button>
      {keep.error && (
        <p role="alert" className="text-brick">
          {keep.error.message}
        </p>
      )}
      {keep.data && !keep.error && (
        <p role="status" className="self-center text-graphite">
          {keep.data.text} is in the bank, cut {keep.data.units.join("-")}.
        </p>
      )}
    </form>
  );
}

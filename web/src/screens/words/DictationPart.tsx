import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useDictations, useMakeDictation } from "@/api/dictations";
import { useLadder } from "@/api/words";
import { dayFormat } from "@/app/days";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { EmptyBoxes } from "../dictation/Boxes";
import { WordsOnLine } from "./OnLine";
import { Slot } from "./Slot";
import { useAsked } from "./useAsked";
import { SoundSlot, Whose } from "./Whose";

const COUNTS = [3, 4, 5, 6, 8, 10, 12];
const long = dayFormat({ weekday: "short", day: "numeric", month: "short" });

/** Words to read out: a ladder from two sounds to four, or words of one's own. */
export function DictationPart() {
  const { id } = useClass();
  const asked = useAsked();
  const { get, set, whose, some } = asked;
  const own = get("words");
  const practise = get("practise");
  const ladder = useLadder(
    id,
    {
      ...whose,
      ...some<{ count: number; seed: number }>(["count", "seed"]),
      ...(practise && { practise: [practise] }),
    },
    !own,
  );
  const navigate = useNavigate();
  const make = useMakeDictation(id, (made) => navigate(`/dictation/${made.id}`));
  const earlier = useDictations(id).data ?? [];
  const rungs = own ? [] : (ladder.data ?? []);
  const words = own ? own.split(" ").filter(Boolean) : rungs.map((one) => one.text);
  return (
    <>
      {!own && (
        <p className="text-large leading-[52px]">
          A ladder of{" "}
          <Slot
            name="How many words"
            value={get("count") || "6"}
            onChange={(count) => set({ count: count === "6" ? null : count })}
          >
            {COUNTS.map((count) => (
              <option key={count} value={count}>
                {count} words
              </option>
            ))}
          </Slot>
          , from two sounds to four, rather with{" "}
          <SoundSlot
            none="any sound"
            name="A sound to practise"
            value={practise}
            onChange={(value) => set({ practise: value || null })}
          />
          <Whose asked={asked} />
        </p>
      )}
      <OwnWords key={own} own={own} onWords={(value) => set({ words: value || null })} />
      {own ? (
        <ol aria-label="Words to dictate" className="my-3 flex flex-wrap gap-x-8 gap-y-2 text-title">
          {words.map((word, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a word can stand there twice
            <li key={`${word} ${i + 1}`}>
              <span className="text-graphite">{i + 1}</span> {word}
            </li>
          ))}
        </ol>
      ) : (
        <WordsOnLine
          label="Words to dictate"
          words={rungs}
          chosen={new Set()}
          onChoose={(word) => set({ words: words.filter((one) => one !== word.text).join(" ") })}
          named={(word) => `${word.text}, ${word.units.length} sounds: leave it out`}
          under={(word) => <EmptyBoxes count={word.units.length} size="small" />}
        />
      )}
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <Button look="strong" disabled={!words.length || make.isPending} onClick={() => make.mutate(words)}>
          Dictate {words.length === 1 ? "this word" : `these ${words.length} words`}
        </Button>
        {!own && <Button onClick={() => set({ seed: Number(get("seed") || 0) + 1 })}>Other words</Button>}
        {own && (
          <Button look="quiet" onClick={() => set({ words: null })}>
            A ladder instead
          </Button>
        )}
        {make.error && (
          <p role="alert" className="text-brick">
            {make.error.message}
          </p>
        )}
      </div>
      {earlier.length > 0 && (
        <section aria-label="Dictations" className="mt-8">
          <h2 className="border-b-2 border-ink pb-1 font-bold">Dictations</h2>
          <ul>
            {earlier.map((one) => (
              <li key={one.id} className="border-b border-hair">
                <Link
                  to={`/dictation/${one.id}`}
                  className="grid min-h-10 grid-cols-[128px_1fr_auto] items-center gap-x-4 hover:bg-ochre/35"
                >
                  <span className="text-graphite">{long(one.day)}</span>
                  <span>{one.words.join(", ")}</span>
                  <span className="text-small text-graphite">
                    {one.marked === one.of ? "all marked" : `${one.marked} of ${one.of} marked`}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function OwnWords({ own, onWords }: { own: string; onWords: (words: string) => void }) {
  const [typed, setTyped] = useState(own);
  return (
    <form
      className="mb-3 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onWords(typed.trim().replace(/[\s,]+/g, " "));
      }}
    >
      <label className="min-w-0 flex-1">
        <span className="block text-small text-graphite">
          Words of your own, with spaces between them; sh-e-ll says how a word is cut
        </span>
        <input
          value={typed}
          maxLength={200}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          className="h-10 w-full border-b-2 border-line bg-band px-2 text-large"
        />
      </label>
      <Button type="submit" disabled={!typed.trim()}>
        Take these
      </Button>
    </form>
  );
}

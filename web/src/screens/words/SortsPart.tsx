import type { SortWord } from "@/api/client";
import { type Sort, useSort } from "@/api/words";
import { useClass } from "@/app/school";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { Chosen, useChosen } from "./Chosen";
import { WordsOnLine } from "./OnLine";
import { Slot } from "./Slot";
import { useAsked } from "./useAsked";
import { SoundSlot, Whose } from "./Whose";

const PLACES = [
  ["first", "begin with"],
  ["last", "end with"],
  ["anywhere", "hold"],
] as const;
const FIRST_UNIT = "sh";
const HALVES = [3, 4, 5, 6, 8, 10];

/** The sort as it is asked for by the address, without words left out by hand. */
export function useSortAsked() {
  const { id } = useClass();
  const asked = useAsked();
  const { get, whose, some } = asked;
  const left = new Set(get("out").split(" ").filter(Boolean));
  const unit = get("unit") || FIRST_UNIT;
  const place = get("place") || "first";
  const query = useSort(id, { ...whose, ...some<Sort>(["place", "half", "seed"]), unit });
  const kept = (query.data ?? []).filter((one) => !left.has(one.word.text));
  const verb = PLACES.find(([value]) => value === place)?.[1] ?? PLACES[0][1];
  return { asked, unit, place, verb, left, query, kept };
}

/** Words that belong among words that do not, in an order that tells nothing. */
export function SortsPart() {
  const { asked, unit, place, verb, left, query, kept } = useSortAsked();
  const { get, set, search } = asked;
  const { words, add } = useChosen();
  const belongs = new Map(kept.map((one) => [one.word.text, one.belongs]));
  const kind = (text: string) => (belongs.get(text) ? verb.replace(/^(\w+)/, "$1s") : "does not");
  return (
    <>
      <p className="text-large leading-[52px]">
        <Slot
          name="How many of each"
          value={get("half") || "6"}
          onChange={(half) => set({ half: half === "6" ? null : half, out: null })}
        >
          {HALVES.map((count) => (
            <option key={count} value={count}>
              {count} words
            </option>
          ))}
        </Slot>{" "}
        that{" "}
        <Slot name="Where it stands" value={place} onChange={(value) => set({ place: value, out: null })}>
          {PLACES.map(([value, said]) => (
            <option key={value} value={value}>
              {said}
            </option>
          ))}
        </Slot>{" "}
        <SoundSlot name="The sound" value={unit} onChange={(value) => set({ unit: value, out: null })} />,
        among as many that do not
        <Whose asked={asked} />
      </p>
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <Button onClick={() => set({ seed: Number(get("seed") || 0) + 1, out: null })}>Other words</Button>
        <LinkButton to={`/board/words/sorts?${search}`}>On the board</LinkButton>
        {left.size > 0 && (
          <Button look="quiet" onClick={() => set({ out: null })}>
            Take back what was left out
          </Button>
        )}
      </div>
      <Loaded query={query} what="a sort">
        {() =>
          kept.length === 0 ? (
            <Empty title={`There are too few words that ${verb} ${unit}`}>
              Ask for more sounds or any letters.
            </Empty>
          ) : (
            <>
              <p className="mb-2 text-small text-graphite">
                As they stand on the board. Press a word to leave it out of the sort.
              </p>
              <WordsOnLine
                label="Words to sort"
                words={kept.map((one: SortWord) => one.word)}
                chosen={new Set(words)}
                onChoose={(word) => set({ out: [...left, word.text].join(" ") })}
                named={(word) => `${word.text}, ${kind(word.text)}: leave it out`}
                under={(word) => (belongs.get(word.text) ? <b>{kind(word.text)}</b> : kind(word.text))}
              />
              <Button
                look="quiet"
                className="mt-2 self-start"
                onClick={() => add(kept.map(({ word }) => word.text))}
              >
                Choose all of them
              </Button>
            </>
          )
        }
      </Loaded>
      <Chosen />
    </>
  );
}

import { useState } from "react";
import { Link } from "react-router";
import type { FoundWord } from "@/api/client";
import { type Asked, useFoundWords, useJoinedForm } from "@/api/words";
import { useClass } from "@/app/school";
import { Button, LINK } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { Chosen, useChosen } from "./Chosen";
import { LinePiece, WordsOnLine } from "./OnLine";
import { Slot, TypedSlot } from "./Slot";
import { useAsked } from "./useAsked";
import { Whose } from "./Whose";

const PLACES = [
  ["anywhere", "anywhere"],
  ["first", "at the start"],
  ["middle", "in the middle"],
  ["last", "at the end"],
  ["doubled", "doubled"],
] as const;
const JOINS = [
  ["from-mid", "a tricky join, out of o, r, v or w"],
  ["into-round", "a join into a round"],
  ["into-tall", "a join into a tall letter"],
] as const;
// biome-ignore format: one list
const MINE: (keyof Asked)[] = [
  "holds", "place", "as_sound", "least", "most", "counted", "practise", "pair", "join",
  "by_heart", "one_length",
];
/** Conditions asked for less often: they stand in the sentence once one of them is wanted. */
const RARER = ["practise", "pair", "join", "by_heart", "one_length"];
const LETTERS = [2, 3, 4, 5, 6, 7, 8];
const SOUNDS = [1, 2, 3, 4, 5];
const STEP = 45;
const MOST = 200;

/** Words that meet a sentence of conditions, changed where it stands. */
export function FindPart() {
  const { id } = useClass();
  const asked = useAsked();
  const { get, set, whose, some } = asked;
  const [limit, setLimit] = useState(STEP);
  const [more, setMore] = useState(RARER.some((name) => get(name) !== ""));
  const query = useFoundWords(id, { ...whose, ...some<Asked>(MINE), limit });
  const { words, toggle } = useChosen();
  const holds = get("holds");
  const counted = get("counted") || "letters";
  const size = get("most") ? `${counted} ${get("most")} ${get("least") === get("most") ? "=" : "<"}` : "";
  return (
    <>
      <p className="text-large leading-[52px]">
        Words with{" "}
        <TypedSlot
          name="A letter or sound"
          value={holds}
          most={4}
          placeholder="any letter"
          onChange={(value) => set({ holds: value.toLowerCase().replace(/[^a-z_]/g, "") || null })}
        />
        {holds && (
          <Slot
            name="Where it stands"
            value={get("place") || "anywhere"}
            onChange={(place) => set({ place: place === "anywhere" ? null : place })}
          >
            {PLACES.map(([value, said]) => (
              <option key={value} value={value}>
                {said}
              </option>
            ))}
          </Slot>
        )}
        {holds.length === 1 && (
          <Slot
            name="Letter or sound"
            value={get("as_sound") || "false"}
            onChange={(value) => set({ as_sound: value === "true" || null })}
          >
            <option value="false">as a letter</option>
            <option value="true">as a sound of its own</option>
          </Slot>
        )}
        <Whose asked={asked} />,{" "}
        <Slot
          name="How long"
          value={size}
          onChange={(value) => {
            const [unit = "", count = "", how] = value.split(" ");
            set({
              counted: unit === "units" ? unit : null,
              most: count || null,
              least: how === "=" ? count : null,
            });
          }}
        >
          <option value="">of any length</option>
          {LETTERS.map((count) => (
            <option key={count} value={`letters ${count} <`}>
              up to {count} letters
            </option>
          ))}
          {LETTERS.map((count) => (
            <option key={count} value={`letters ${count} =`}>
              of {count} letters
            </option>
          ))}
          {SOUNDS.map((count) => (
            <option key={count} value={`units ${count} =`}>
              of {count} {count === 1 ? "sound" : "sounds"}
            </option>
          ))}
        </Slot>
        {more ? (
          <More asked={asked} />
        ) : (
          <Button look="quiet" onClick={() => setMore(true)}>
            and also…
          </Button>
        )}
      </p>
      <Loaded query={query} what="words">
        {(found) => (
          <>
            <p role="status" className="mb-2 text-small text-graphite">
              {found.found === 0
                ? "No word of the bank meets all of that. Take a condition back, or ask for any letters."
                : `${found.found.toLocaleString("en-GB")} ${found.found === 1 ? "word" : "words"}, those with the letter taught last first; under each, how many children have begun all its letters`}
            </p>
            <WordsOnLine
              label="Words found"
              words={found.words}
              chosen={new Set(words)}
              onChoose={(word) => toggle(word.text)}
              named={(word) => `${word.text}, ${word.able} of ${found.children}`}
              under={(word) => <Under word={word} of={found.children} />}
            />
            {found.found > found.words.length && limit < MOST && (
              <Button look="quiet" onClick={() => setLimit(Math.min(MOST, limit + STEP))}>
                Show more
              </Button>
            )}
            {words.length === 1 && <Joined text={words[0] ?? ""} found={found.words} />}
          </>
        )}
      </Loaded>
      <Chosen />
    </>
  );
}

function Under({ word, of }: { word: FoundWord; of: number }) {
  return (
    <>
      {word.able} of {of}
      {word.by_heart && " · by heart"}
    </>
  );
}

/** The conditions that are asked for less often: what it practises, its joins, by heart, for columns. */
function More({ asked }: { asked: ReturnType<typeof useAsked> }) {
  const { get, set } = asked;
  const join = get("pair") ? "pair" : get("join");
  const [pairing, setPairing] = useState(false);
  const [pair, setPair] = useState(get("pair"));
  return (
    <>
      ,{" "}
      <Slot
        name="What it practises"
        value={get("practise")}
        onChange={(value) => set({ practise: value || null })}
      >
        <option value="">whatever it practises</option>
        <option value="due">with a letter that is due again</option>
        <option value="wrong">with a letter not yet secure</option>
      </Slot>
      , with{" "}
      <Slot
        name="Which joins"
        value={pairing ? "pair" : join}
        onChange={(value) => {
          setPairing(value === "pair");
          set({ join: value === "pair" ? null : value || null, pair: null });
        }}
      >
        <option value="">any joins</option>
        {JOINS.map(([value, said]) => (
          <option key={value} value={value}>
            {said}
          </option>
        ))}
        <option value="pair">the join of two letters</option>
      </Slot>
      {(pairing || get("pair")) && (
        <TypedSlot
          name="Two letters joined"
          value={pair}
          most={2}
          placeholder="ow"
          onChange={(value) => {
            setPair(value.toLowerCase());
            set({ pair: /^[a-z]{2}$/i.test(value) ? value.toLowerCase() : null });
          }}
        />
      )}
      ,{" "}
      <Slot name="By heart" value={get("by_heart")} onChange={(value) => set({ by_heart: value || null })}>
        <option value="">by heart or not</option>
        <option value="false">none to know by heart</option>
        <option value="true">only those to know by heart</option>
      </Slot>
      ,{" "}
      <Slot
        name="For columns"
        value={get("one_length")}
        onChange={(value) => set({ one_length: value || null })}
      >
        <option value="">of different lengths</option>
        <option value="true">all of one length</option>
      </Slot>
    </>
  );
}

/** One chosen word joined, with its tricky joins named. */
function Joined({ text, found }: { text: string; found: FoundWord[] }) {
  const { id, style } = useClass();
  const drawing = useJoinedForm(id, text).data;
  const tricky = found.find((one) => one.text === text)?.tricky;
  if (!drawing) return null;
  return (
    <section aria-label={`${text} joined`} className="mt-4 max-w-xl">
      <h2 className="border-b-2 border-ink pb-1 font-bold">{text}, joined</h2>
      <LinePiece drawing={drawing} />
      <p className="text-graphite">
        {tricky?.length
          ? `Tricky joins, out of the mid line: ${tricky.join(", ")}.`
          : "No join of it is tricky."}{" "}
        {style.script !== "cursive" && (
          <Link className={LINK} to="/style">
            This class does not join yet
          </Link>
        )}
      </p>
    </section>
  );
}

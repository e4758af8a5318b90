import type { Gap } from "@/api/client";
import { type Gaps, useGaps } from "@/api/words";
import { useClass } from "@/app/school";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { Tick } from "@/ui/Tick";
import { Chosen, useChosen } from "./Chosen";
import { GapDrawn } from "./GapDrawn";
import { widthPx } from "./OnLine";
import { Slot } from "./Slot";
import { useAsked } from "./useAsked";
import { SoundSlot, Whose } from "./Whose";

const [ONE, OTHER] = ["e", "i"];
const COUNTS = [4, 6, 8, 12, 16, 24];

/** The gaps as they are asked for by the address, without those left out by hand. */
export function useGapsAsked() {
  const { id } = useClass();
  const asked = useAsked();
  const { get, whose, some } = asked;
  const left = new Set(get("out").split(" ").filter(Boolean));
  const one = get("one") || ONE;
  const other = get("other") || OTHER;
  const query = useGaps(id, { ...whose, ...some<Gaps>(["both", "most", "seed"]), one, other });
  const kept = (query.data ?? []).filter((gap) => !left.has(gap.word.text));
  return { asked, one, other, left, query, kept };
}

/** A word with a gap, and two sounds to choose from. */
export function FitsPart() {
  const { asked, one, other, left, query, kept } = useGapsAsked();
  const { get, set, search } = asked;
  const { words, toggle } = useChosen();
  const same = one === other;
  return (
    <>
      <p className="text-large leading-[52px]">
        <Slot
          name="How many words"
          value={get("most") || "8"}
          onChange={(most) => set({ most: most === "8" ? null : most, out: null })}
        >
          {COUNTS.map((count) => (
            <option key={count} value={count}>
              {count} words
            </option>
          ))}
        </Slot>{" "}
        in which{" "}
        <SoundSlot name="One sound" value={one} onChange={(value) => set({ one: value, out: null })} /> or{" "}
        <SoundSlot
          name="The other sound"
          value={other}
          onChange={(value) => set({ other: value, out: null })}
        />{" "}
        is missing
        <Whose asked={asked} />
      </p>
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <Tick on={get("both") === "true"} onTick={(on) => set({ both: on || null, out: null })}>
          Only words into which both fit
        </Tick>
        <Button onClick={() => set({ seed: Number(get("seed") || 0) + 1, out: null })}>Other words</Button>
        <LinkButton to={`/board/words/fits?${search}`}>On the board</LinkButton>
      </div>
      <Loaded query={query} what="words with a gap">
        {() =>
          same || kept.length === 0 ? (
            <Empty title={same ? "Choose two different sounds" : "There is no such word"}>
              {!same && "Ask for more sounds or any letters, or for other two sounds."}
            </Empty>
          ) : (
            <ul aria-label="Words with a gap" className="flex flex-wrap gap-y-3">
              {kept.map((gap) => (
                <GapItem
                  key={gap.word.text}
                  gap={gap}
                  chosen={words.includes(gap.word.text)}
                  onChoose={() => toggle(gap.word.text)}
                  onLeaveOut={() => set({ out: [...left, gap.word.text].join(" ") })}
                />
              ))}
            </ul>
          )
        }
      </Loaded>
      {left.size > 0 && (
        <Button look="quiet" className="self-start" onClick={() => set({ out: null })}>
          Take back what was left out
        </Button>
      )}
      <Chosen />
    </>
  );
}

type ItemProps = { gap: Gap; chosen: boolean; onChoose: () => void; onLeaveOut: () => void };

function GapItem({ gap, chosen, onChoose, onLeaveOut }: ItemProps) {
  const { word, fitting, options } = gap;
  return (
    <li style={{ minWidth: widthPx(word.drawing) + 60 }} className="flex-1">
      <GapDrawn gap={gap} />
      <p className="flex flex-wrap items-baseline gap-x-3 pl-4 text-small">
        <span className="text-body">
          {options.map((one, i) => (
            <span key={one}>
              {i > 0 && " or "}
              <b className={fitting.includes(one) ? "underline underline-offset-4" : "font-normal"}>{one}</b>
            </span>
          ))}
        </span>
        <button
          type="button"
          aria-pressed={chosen}
          className="min-h-8 underline decoration-pale underline-offset-4 aria-pressed:bg-ochre"
          onClick={onChoose}
        >
          {word.text}
        </button>
        <button
          type="button"
          aria-label={`leave out ${word.text}`}
          className="min-h-8 text-graphite hover:text-brick"
          onClick={onLeaveOut}
        >
          leave out
        </button>
      </p>
    </li>
  );
}

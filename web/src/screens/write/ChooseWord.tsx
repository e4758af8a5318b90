import clsx from "clsx";
import { type ReactNode, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { Child } from "@/api/client";
import { useModel } from "@/api/queries";
import { useAskForWord, useWordsWithinReach } from "@/api/written";
import { useClass } from "@/app/school";
import { centred, Glyph, widthOf } from "@/line/Letter";
import { Lines } from "@/line/Strip";
import { LINK } from "@/ui/Button";
import { Start } from "./Start";

const LONGEST = 40; // characters of a line
const PREVIEW_UNITS = 1600;

/** A word or a line for a child: one of those within reach, or the teacher's own. */
export function ChooseWord({ child, cautions }: { child: Child | undefined; cautions: ReactNode }) {
  const [search] = useSearchParams();
  const brought = search.get("words") ?? "";
  const chosen = search.get("line") ? [brought] : brought.split(" ").filter(Boolean);
  const [text, setText] = useState(chosen.length === 1 ? (chosen[0] ?? "") : "");
  const navigate = useNavigate();
  const within = useWordsWithinReach(child?.id);
  const ask = useAskForWord((word) => navigate(`/write/word/${word.id}`));
  const { style } = useClass();
  const wanted = text.trim().replace(/\s+/g, " ");
  const tricky = within.data?.find((one) => one.text === wanted && one.tricky.length)?.tricky;
  return (
    <>
      <h2 className="border-t-2 border-ink pt-2 font-bold">Which word?</h2>
      {chosen.length > 0 && (
        <div className="mt-2">
          <p className="text-small text-graphite">
            Chosen in{" "}
            <Link className={LINK} to={`/words?chosen=${encodeURIComponent(brought)}`}>
              Words
            </Link>
          </p>
          <Options name="Chosen word" words={chosen} wanted={wanted} onChoose={setText} />
        </div>
      )}
      {child && within.data && (
        <div className="mt-2">
          <p className="text-small text-graphite">
            {within.data.length
              ? `Of letters that ${child.first_name} has begun, those with the latest first`
              : `${child.first_name} has not begun the letters of any short word yet; type one.`}
          </p>
          <Options
            name="Word"
            words={within.data.map((one) => one.text)}
            wanted={wanted}
            onChoose={setText}
          />
        </div>
      )}
      <label className="mt-4 block max-w-xl">
        <span className="text-small text-graphite">A word or a line of your own</span>
        <input
          value={text}
          maxLength={LONGEST}
          onChange={(event) => setText(event.target.value)}
          className="mt-1 block h-10 w-full border-b-2 border-line bg-band px-2"
        />
      </label>
      <Preview text={wanted} />
      {tricky && style.script === "cursive" && (
        <p className="text-graphite">Tricky joins, out of the mid line: {tricky.join(", ")}.</p>
      )}
      {cautions}
      <Start
        refused={ask.error?.message}
        says={child && wanted ? `${child.name} writes ${wanted}` : "Choose a child and a word."}
        words="Start writing"
        disabled={!child || !wanted || ask.isPending}
        onStart={() => child && ask.mutate({ child_id: child.id, text: wanted })}
      />
    </>
  );
}

type OptionsProps = { name: string; words: string[]; wanted: string; onChoose: (word: string) => void };

/** Words side by side, one of them chosen. */
function Options({ name, words, wanted, onChoose }: OptionsProps) {
  return (
    <div role="radiogroup" aria-label={name} className="mt-1 flex flex-wrap gap-2">
      {words.map((one) => (
        <button
          key={one}
          type="button"
          role="radio"
          aria-checked={one === wanted}
          onClick={() => onChoose(one)}
          className={clsx(
            "h-10 rounded-sm border border-pale bg-sheet px-3 hover:border-line",
            "aria-checked:border-ink aria-checked:bg-ochre aria-checked:font-bold",
          )}
        >
          {one}
        </button>
      ))}
    </div>
  );
}

/** The word as the class writes it. */
function Preview({ text }: { text: string }) {
  const { id } = useClass();
  const { data } = useModel(text || "l", id);
  if (!text || !data || data.char !== text) return <div className="mt-4 h-28" />;
  const width = Math.max(PREVIEW_UNITS, widthOf(data) + 120);
  return (
    <svg
      viewBox={`0 -225 ${width} 350`}
      className="mt-4 h-28 w-full"
      preserveAspectRatio="xMinYMid meet"
      role="img"
      aria-label={`${text} as the class writes it`}
    >
      <Lines from={0} to={width} />
      <Glyph letter={data} x={centred(data, 60 + widthOf(data) / 2)} weight={9} />
    </svg>
  );
}

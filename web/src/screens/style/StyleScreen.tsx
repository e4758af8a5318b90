import { useState } from "react";
import { chosenOf, useStyleStep } from "@/api/classes";
import type { StyleDoc, StyleLook, StyleVersion } from "@/api/client";
import { useStyleLook } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { Lines, Strip } from "@/line/Strip";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Loaded } from "@/ui/States";
import { useSettled } from "@/ui/useSettled";
import { Adjusting } from "./Adjusting";
import { KeptStyles } from "./KeptStyles";

const SETTLES_MS = 120;
const LINE_WIDTH = 2500; // units; the line stays in sight while letters further down are chosen

const SCRIPTS: { value: StyleDoc["script"]; words: string }[] = [
  { value: "print", words: "Print" },
  { value: "print-exits", words: "Print with exits" },
  { value: "cursive", words: "Joined" },
];
const WIDTHS: { value: StyleDoc["width"]; words: string }[] = [
  { value: "narrow", words: "Narrow" },
  { value: "even", words: "Even" },
  { value: "wide", words: "Wide" },
];

/** Every choice of letterform, made on the letters themselves. Nothing is kept until it is used. */
export function StyleScreen() {
  const { id, style: kept } = useClass();
  return <Choosing key={`${id} ${kept.id}`} />;
}

function Choosing() {
  const { id, name, style: followed } = useClass();
  const kept = chosenOf(followed);
  const [draft, setDraft] = useState<StyleDoc>(kept);
  const [text, setText] = useState("quick brown fox");
  const [letter, setLetter] = useState("");
  const [against, setAgainst] = useState<StyleVersion | null>(null);
  const other = against?.style ?? kept;
  const shown = `${text}${letter && !text.includes(letter) ? ` ${letter}` : ""}`.trim() || "n";
  const query = useStyleLook(useSettled(draft, SETTLES_MS), other, useSettled(shown, SETTLES_MS), letter);
  const set = (part: Partial<StyleDoc>) => setDraft({ ...draft, ...part });
  const changed = JSON.stringify(draft) !== JSON.stringify(kept);
  const use = useStyleStep(id);
  return (
    <>
      <PageHead crowded title="House style" sub={`${name} · ${followed.name}, version ${followed.version}`}>
        <LinkButton look="quiet" to="/differences">
          Where schools differ
        </LinkButton>
      </PageHead>
      <Loaded query={query} what="the letters">
        {(look) => (
          <>
            <Line
              look={look}
              above={against ? `${against.name}, version ${against.version}` : changed ? "as kept" : ""}
            />
            <div className="mt-3 grid grid-cols-[264px_minmax(0,1fr)] gap-8 max-[900px]:grid-cols-1">
              <div className="space-y-4">
                <Whole draft={draft} text={text} onText={setText} set={set} />
                <UseIt
                  draft={draft}
                  changed={changed}
                  look={look}
                  set={set}
                  use={use}
                  onUndo={() => setDraft(kept)}
                />
                <KeptStyles onImport={setDraft} against={against} onCompare={setAgainst} />
              </div>
              <div>
                <Choices
                  look={look}
                  onChoose={(key, value) => set({ choices: { ...draft.choices, [key]: value } })}
                />
                <Adjusting look={look} draft={draft} letter={letter} onLetter={setLetter} onChange={set} />
              </div>
            </div>
          </>
        )}
      </Loaded>
    </>
  );
}

/** A line of text in the style; what it is compared with stands above it, under the given name. */
function Line({ look, above }: { look: StyleLook; above: string }) {
  const lines = above && look.before ? [look.before, look.line] : [look.line];
  const width = Math.max(LINE_WIDTH, ...lines.map((line) => line.width + 80));
  return (
    <div className="sticky top-0 z-10 space-y-1 bg-paper pb-2">
      {lines.map((line, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the kept line first, then the new one
        <div key={i}>
          <Strip
            width={width}
            above={12}
            below={6}
            label={`${line.text}${i || !above ? "" : `, ${above}`}`}
            className="block w-full"
          >
            <g
              transform="translate(20 0)"
              fill="none"
              stroke={lines.length > 1 && i === 0 ? "var(--color-mid)" : "var(--color-ink)"}
              strokeWidth={9}
              strokeLinecap="round"
              strokeLinejoin="round"
            >
              {line.paths.map((d) => (
                <path key={d} d={d} />
              ))}
            </g>
          </Strip>
          {lines.length > 1 && <p className="text-small text-graphite">{i ? "as chosen now" : above}</p>}
        </div>
      ))}
    </div>
  );
}

type WholeProps = {
  draft: StyleDoc;
  text: string;
  onText: (text: string) => void;
  set: (part: Partial<StyleDoc>) => void;
};

/** Choices that change every letter. */
function Whole({ draft, text, onText, set }: WholeProps) {
  const joined = draft.script === "cursive";
  return (
    <section aria-label="The whole hand" className="space-y-3 border-t-2 border-ink pt-2">
      <Choice name="Script" options={SCRIPTS} chosen={draft.script} onChoose={(script) => set({ script })} />
      <label className="block">
        <span className="text-small text-graphite">
          {draft.slant_deg ? `Leaning forward, ${draft.slant_deg} degrees` : "Upright"}
        </span>
        <input
          type="range"
          min={0}
          max={15}
          step={1}
          value={draft.slant_deg}
          onChange={(event) => set({ slant_deg: Number(event.target.value) })}
          className="block w-full accent-[var(--color-ink)]"
        />
      </label>
      <Choice name="Width" options={WIDTHS} chosen={draft.width} onChoose={(width) => set({ width })} />
      {joined && (
        <div className="space-y-1">
          <Tick on={draft.entry} onChange={(entry) => set({ entry })}>
            Begin a word with a lead-in
          </Tick>
          <Tick
            on={draft.ascenders === "looped"}
            onChange={(on) => set({ ascenders: on ? "looped" : "plain" })}
          >
            Looped ascenders
          </Tick>
          <Tick on={draft.tails === "looped"} onChange={(on) => set({ tails: on ? "looped" : "hooked" })}>
            Looped tails that join
          </Tick>
          <label className="block text-small text-graphite">
            Lift after these letters too
            <input
              value={draft.breaks}
              maxLength={26}
              onChange={(event) => set({ breaks: event.target.value.toLowerCase().replace(/[^a-z]/g, "") })}
              className="ml-2 h-8 w-20 border-b-2 border-line bg-band px-2 text-ink"
            />
          </label>
        </div>
      )}
      {!joined && (
        <Tick
          on={draft.dots === "after-word"}
          onChange={(on) => set({ dots: on ? "after-word" : "at-once" })}
        >
          Dots and bars after the word
        </Tick>
      )}
      <Tick
        on={draft.correction === "rub-out"}
        onChange={(on) => set({ correction: on ? "rub-out" : "cross-out" })}
      >
        Rub out instead of crossing out
      </Tick>
      <label className="block">
        <span className="text-small text-graphite">Line of text</span>
        <input
          value={text}
          maxLength={40}
          onChange={(event) => onText(event.target.value)}
          className="h-9 w-full border-b-2 border-line bg-band px-2"
        />
      </label>
    </section>
  );
}

function Tick(props: { on: boolean; onChange: (on: boolean) => void; children: string }) {
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        checked={props.on}
        onChange={(event) => props.onChange(event.target.checked)}
        className="size-4 accent-[var(--color-ink)]"
      />
      {props.children}
    </label>
  );
}

type UseItProps = {
  draft: StyleDoc;
  changed: boolean;
  look: StyleLook;
  set: (part: Partial<StyleDoc>) => void;
  use: ReturnType<typeof useStyleStep>;
  onUndo: () => void;
};

/** What the change would do, and keeping it. */
function UseIt({ draft, changed, look, set, use, onUndo }: UseItProps) {
  return (
    <section aria-label="What changes" className="space-y-2 border-t-2 border-ink pt-2">
      <p aria-live="polite">
        {look.changed.length ? (
          <>
            Changes{" "}
            <b>{look.changed.length > 30 ? `${look.changed.length} letters` : look.changed.join(" ")}</b>.
          </>
        ) : (
          "As the class has it now."
        )}
      </p>
      {look.moved.length > 0 && (
        <ul className="text-small text-graphite">
          {look.moved.map((one) => (
            <li key={one.letter}>
              {one.letter} leaves {one.before} for {one.after}.
            </li>
          ))}
        </ul>
      )}
      <label className="block">
        <span className="text-small text-graphite">Name</span>
        <input
          value={draft.name}
          maxLength={80}
          onChange={(event) => set({ name: event.target.value })}
          className="h-9 w-full border-b-2 border-line bg-band px-2"
        />
      </label>
      <p className="text-small text-graphite">Rows already written keep the style they were written in.</p>
      {use.error && (
        <p role="alert" className="text-brick">
          {use.error.message}
        </p>
      )}
      <div className="flex gap-2">
        <Button
          look="strong"
          disabled={!changed || !draft.name.trim() || use.isPending}
          onClick={() => use.mutate(draft)}
        >
          Use this style
        </Button>
        <Button disabled={!changed} onClick={onUndo}>
          Undo
        </Button>
      </div>
    </section>
  );
}

const CARD = 300;

/** "Pick the k you teach": every choice drawn in the style as it is now. */
function Choices({ look, onChoose }: { look: StyleLook; onChoose: (key: string, value: string) => void }) {
  return (
    <div className="grid grid-cols-2 gap-x-6 gap-y-3 border-t-2  border-ink pt-2 min-[1200px]:grid-cols-3">
      {look.choices.map((choice) => (
        <fieldset key={choice.key}>
          <legend className="text-small">{choice.question}</legend>
          <div className="flex flex-wrap gap-1">
            {choice.options.map((option) => (
              <label
                key={option.value}
                className="flex-1 cursor-pointer rounded-sm border border-transparent hover:border-line has-[:checked]:border-ink has-[:checked]:bg-ochre/60 has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-line"
              >
                <input
                  type="radio"
                  className="sr-only"
                  name={choice.key}
                  checked={option.chosen}
                  onChange={() => onChoose(choice.key, option.value)}
                />
                <svg viewBox={`0 -225 ${CARD} 345`} className="block h-[76px] w-full" aria-hidden="true">
                  <Lines from={0} to={CARD} />
                  <Glyph letter={option.drawing} x={centred(option.drawing, CARD / 2)} weight={11} />
                </svg>
                <span className="block px-1 text-center text-small leading-4 text-graphite">
                  {option.words}
                </span>
              </label>
            ))}
          </div>
        </fieldset>
      ))}
    </div>
  );
}

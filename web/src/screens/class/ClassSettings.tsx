import clsx from "clsx";
import { type ReactNode, useEffect, useState } from "react";
import {
  type ClassChange,
  chosenOf,
  type LevelTold,
  useClassSteps,
  useLevelsTold,
  useRulings,
  useStyleStep,
} from "@/api/classes";
import type { Ruling, SchoolClass, StyleDoc, Support } from "@/api/client";
import { useLetter, useLine } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { DROP, Lines, RISE, XH } from "@/line/Strip";
import { Offer } from "@/screens/write/WritingStrip";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Loaded } from "@/ui/States";

const SAMPLE = "hedge";
const PX_A_MM = 3.78; // as a browser takes a millimetre
const LEAST_MM = 4;
const MOST_MM = 20;
const MOST_OF_A_KIND = 8;
const MOST = 12;
const SLOTS: { kind: Support; words: string }[] = [
  { kind: "trace", words: "to trace" },
  { kind: "finish", words: "to finish" },
  { kind: "ring", words: "from a ring" },
  { kind: "alone", words: "alone" },
];
const CARD =
  "rounded-sm border p-2 text-left hover:border-line aria-checked:border-ink aria-checked:bg-ochre";

/** How a class is set up; every change is seen on the line at once and holds for what is written next. */
export function ClassSettings() {
  const chosen = useClass();
  const { change } = useClassSteps();
  const set = (body: ClassChange) => change.mutate({ id: chosen.id, body });
  return (
    <>
      <PageHead crowded title={`${chosen.name}, set up`} sub="Rows that were written stay as they are.">
        <LinkButton look="quiet" to="/class">
          Back to the class
        </LinkButton>
      </PageHead>
      <div className="border-t-2 border-ink pt-3">
        <Sample
          ruling={chosen.ruled}
          classId={chosen.id}
          tall={chosen.xh_mm * PX_A_MM}
          label="The class's line"
        />
      </div>
      <RowSample chosen={chosen} />
      {change.error && (
        <p role="alert" className="mt-2 text-brick">
          {change.error.message}
        </p>
      )}
      <div className="mt-4 grid grid-cols-2 gap-x-12 gap-y-6 max-[1100px]:grid-cols-1">
        <Name key={`${chosen.id} name`} chosen={chosen} onName={(name) => set({ name })} />
        <Height key={`${chosen.id} height`} kept={chosen.xh_mm} onHeight={(xh_mm) => set({ xh_mm })} />
        <div>
          <Rulings chosen={chosen} onRuling={(ruling) => set({ ruling })} />
          <div className="mt-2">
            <Tick on={chosen.ruled.washed} onTick={(washed) => set({ washed })}>
              The middle band in a faint wash
            </Tick>
          </div>
        </div>
        <div className="space-y-6">
          <Pattern chosen={chosen} onChange={set} />
          <Correction key={chosen.style.id} chosen={chosen} />
          <LineNames key={chosen.id} chosen={chosen} onNames={(line_names) => set({ line_names })} />
        </div>
      </div>
      <Levels chosen={chosen} onLevel={(level) => set({ level })} />
      <p className="mt-6 border-t border-hair pt-2 text-small text-graphite">
        How letters are made is the house style’s.{" "}
        <LinkButton look="quiet" to="/style">
          House style
        </LinkButton>
      </p>
    </>
  );
}

/** A word of the class's letters on some lines. */
function Sample(props: { ruling: Ruling; classId: number; tall: number; label?: string }) {
  const { data } = useLine(SAMPLE, props.classId);
  const ofWords = props.ruling.boxes === "word"; // blocks stand around letters, and where those stand is not told here
  const width = (data?.width ?? 10 * XH) + 120;
  return (
    <svg
      role={props.label ? "img" : undefined}
      aria-label={props.label}
      aria-hidden={!props.label}
      viewBox={`0 ${RISE - 30} ${width} ${DROP - RISE + 60}`}
      style={{ height: (props.tall * (DROP - RISE + 60)) / XH }}
      preserveAspectRatio="xMinYMid meet"
      className="block w-full"
    >
      <Lines
        from={0}
        to={40 * XH}
        ruling={props.ruling}
        words={data && ofWords ? [[[60, 60 + data.width]]] : []}
      />
      {data && (
        <g
          transform="translate(60 0)"
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth={9}
          strokeLinecap="round"
          strokeLinejoin="round"
        >
          {data.paths.map((d) => (
            <path key={d} d={d} />
          ))}
        </g>
      )}
    </svg>
  );
}

const ROW_LETTER = "n";
const SLOT = 2 * XH;

/** How a row goes, slot by slot, on the class's line: what a child finds there before the pen comes. */
function RowSample({ chosen }: { chosen: SchoolClass }) {
  const { data: letter } = useLetter(ROW_LETTER, chosen.id);
  const { pattern, layered, fill_line, ruled } = chosen;
  const slots = layered ? pattern.slice(0, 1) : pattern;
  return (
    <svg
      role="img"
      aria-label={`How a row goes: ${pattern.join(", ")}`}
      viewBox={`0 ${RISE - 30} ${MOST * SLOT + SLOT} ${DROP - RISE + 60}`}
      preserveAspectRatio="xMinYMid meet"
      className="mt-2 block h-24 w-full"
    >
      <Lines from={0} to={40 * XH} ruling={ruled} />
      {letter && <Glyph letter={letter} x={centred(letter, SLOT / 2)} weight={9} />}
      {letter &&
        slots.map((support, i) => (
          <Offer
            // biome-ignore lint/suspicious/noArrayIndexKey: a slot is known by its place
            key={i}
            letter={letter}
            support={support}
            x={centred(letter, SLOT * (i + 1.5))}
            next
          />
        ))}
      {(fill_line || layered) && (
        <text x={SLOT * (slots.length + 1.3)} y={-30} fontSize={46} fill="var(--color-graphite)">
          {layered ? `${pattern.length} times, on top of one another` : "and on until the line is full"}
        </text>
      )}
    </svg>
  );
}

function Height({ kept, onHeight }: { kept: number; onHeight: (mm: number) => void }) {
  const [mm, setMm] = useState(kept); // of its own: a key held down is quicker than what is kept
  return (
    <label className="block">
      <span className="font-bold">From base to mid line</span> {mm} mm
      <input
        type="range"
        min={LEAST_MM}
        max={MOST_MM}
        value={mm}
        aria-valuetext={`${mm} millimetres`}
        onChange={(event) => {
          setMm(Number(event.target.value));
          onHeight(Number(event.target.value));
        }}
        className="mt-2 block w-full accent-ink"
      />
    </label>
  );
}

function Name({ chosen, onName }: { chosen: SchoolClass; onName: (name: string) => void }) {
  const [name, setName] = useState(chosen.name);
  return (
    <form
      className="flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onName(name.trim());
      }}
    >
      <label className="flex-1">
        <span className="font-bold">Name</span>
        <input
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="mt-1 h-10 w-full border-b-2 border-line bg-band px-2"
        />
      </label>
      <Button type="submit" disabled={!name.trim() || name.trim() === chosen.name}>
        Call it so
      </Button>
    </form>
  );
}

function Rulings({ chosen, onRuling }: { chosen: SchoolClass; onRuling: (key: string) => void }) {
  const query = useRulings();
  return (
    <section>
      <h2 className="font-bold">Lines</h2>
      <Loaded query={query} what="the rulings">
        {(rulings) => (
          <div role="radiogroup" aria-label="Lines" className="mt-2 grid grid-cols-2 gap-2">
            {rulings.map((one) => (
              <button
                key={one.key}
                type="button"
                role="radio"
                aria-checked={one.key === chosen.ruling}
                onClick={() => onRuling(one.key)}
                className={clsx(CARD, "border-pale bg-sheet")}
              >
                <Sample ruling={one} classId={chosen.id} tall={16} />
                <span className="text-small">{one.name}</span>
              </button>
            ))}
          </div>
        )}
      </Loaded>
    </section>
  );
}

function Tick(props: { on: boolean; onTick: (on: boolean) => void; children: ReactNode }) {
  const [on, setOn] = useState(props.on); // of its own: it shows at once what is being kept
  useEffect(() => setOn(props.on), [props.on]);
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        checked={on}
        onChange={(event) => {
          setOn(event.target.checked);
          props.onTick(event.target.checked);
        }}
        className="size-5 accent-ink"
      />
      {props.children}
    </label>
  );
}

const countOf = (pattern: Support[], kind: Support) => pattern.filter((one) => one === kind).length;

function Pattern({ chosen, onChange }: { chosen: SchoolClass; onChange: (body: ClassChange) => void }) {
  const { pattern, fill_line, layered } = chosen;
  const set = (kind: Support, count: number) => {
    const next = SLOTS.flatMap((one) =>
      Array<Support>(one.kind === kind ? count : countOf(pattern, one.kind)).fill(one.kind),
    );
    if (next.length) onChange({ pattern: next });
  };
  return (
    <section>
      <h2 className="font-bold">How a row goes</h2>
      <p className="text-small text-graphite">
        {pattern.length} letters: those to trace first, then those to finish, those that show only where to
        start, then alone.
      </p>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {SLOTS.map(({ kind, words }) => {
          const count = countOf(pattern, kind);
          return (
            <fieldset key={kind} className="flex items-center gap-2">
              <legend className="float-left mr-2">{words}</legend>
              <Button
                aria-label={`One less ${words}`}
                disabled={count === 0 || pattern.length === 1}
                onClick={() => set(kind, count - 1)}
              >
                −
              </Button>
              <output aria-label={words} className="w-5 text-center font-bold">
                {count}
              </output>
              <Button
                aria-label={`One more ${words}`}
                disabled={count === MOST_OF_A_KIND || pattern.length === MOST}
                onClick={() => set(kind, count + 1)}
              >
                +
              </Button>
            </fieldset>
          );
        })}
      </div>
      <div className="mt-3 space-y-1">
        <Tick on={fill_line} onTick={(on) => onChange({ fill_line: on })}>
          On and on alone, until the line across a page is full
        </Tick>
        <Tick on={layered} onTick={(on) => onChange({ layered: on })}>
          The same letter on top of itself, each time in another colour
        </Tick>
      </div>
    </section>
  );
}

const CORRECTIONS: { value: StyleDoc["correction"]; words: string }[] = [
  { value: "cross-out", words: "Cross it out and write it again" },
  { value: "rub-out", words: "Rub it out and write it again" },
];

/** What a child does with a letter that went wrong; it makes a new version of the class's style. */
function Correction({ chosen }: { chosen: SchoolClass }) {
  const step = useStyleStep(chosen.id);
  const style = chosenOf(chosen.style);
  return (
    <section>
      <h2 className="font-bold">When a letter goes wrong</h2>
      <div className="mt-2">
        <Choice
          name="When a letter goes wrong"
          options={CORRECTIONS}
          chosen={step.isPending ? (step.variables.correction ?? style.correction) : style.correction}
          onChoose={(correction) => step.mutate({ ...style, correction })}
        />
      </div>
      {step.error && (
        <p role="alert" className="text-brick">
          {step.error.message}
        </p>
      )}
    </section>
  );
}

const LINES = ["rise", "mid", "base", "drop"] as const;

/** What the lines are called; an empty field is the usual name. */
function LineNames({
  chosen,
  onNames,
}: {
  chosen: SchoolClass;
  onNames: (names: Record<string, string>) => void;
}) {
  const [names, setNames] = useState(chosen.line_names);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onNames(Object.fromEntries(Object.entries(names).filter(([, name]) => name.trim())));
      }}
    >
      <h2 className="font-bold">What the lines are called</h2>
      <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
        {LINES.map((line) => (
          <label key={line} className="block">
            <span className="text-small text-graphite">{line} line</span>
            <input
              value={names[line] ?? ""}
              maxLength={24}
              placeholder={`${line} line`}
              onChange={(event) => setNames({ ...names, [line]: event.target.value })}
              className="h-10 w-full border-b-2 border-line bg-band px-2"
            />
          </label>
        ))}
      </div>
      <Button
        type="submit"
        className="mt-2"
        disabled={JSON.stringify(names) === JSON.stringify(chosen.line_names)}
      >
        Call them so
      </Button>
    </form>
  );
}

function Levels({
  chosen,
  onLevel,
}: {
  chosen: SchoolClass;
  onLevel: (level: SchoolClass["level"]) => void;
}) {
  const query = useLevelsTold();
  return (
    <section className="mt-6">
      <h2 className="font-bold">Level</h2>
      <Loaded query={query} what="the levels">
        {(levels) => (
          <div
            role="radiogroup"
            aria-label="Level"
            className="mt-2 grid grid-cols-3 gap-3 max-[1100px]:grid-cols-1"
          >
            {levels.map((one) => (
              <button
                key={one.level}
                type="button"
                role="radio"
                aria-checked={one.level === chosen.level}
                onClick={() => onLevel(one.level)}
                className={clsx(CARD, "flex gap-3 border-pale bg-sheet")}
              >
                <OffTheLine level={one} classId={chosen.id} />
                <span>
                  <b className="first-letter:uppercase inline-block">{one.level}</b>
                  <span className="block text-small">{one.says}</span>
                </span>
              </button>
            ))}
          </div>
        )}
      </Loaded>
    </section>
  );
}

/** How far above the line a letter may stand at a level and still be fine. */
function OffTheLine({ level, classId }: { level: LevelTold; classId: number }) {
  const { data } = useLine("n", classId);
  return (
    <svg
      viewBox="-20 -190 190 240"
      className="h-20 shrink-0"
      role="img"
      aria-label="The highest an n may stand above the line"
    >
      <Lines from={-20} to={170} />
      <g fill="none" strokeLinecap="round" strokeLinejoin="round" strokeWidth={10}>
        {data?.paths.map((d) => (
          <g key={d}>
            <path d={d} transform="translate(30 0)" stroke="var(--color-pale)" />
            <path d={d} transform={`translate(30 ${-level.floating_xh * XH})`} stroke="var(--color-ink)" />
          </g>
        ))}
      </g>
    </svg>
  );
}

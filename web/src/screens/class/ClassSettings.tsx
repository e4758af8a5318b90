import clsx from "clsx";
import { useState } from "react";
import {
  type ClassChange,
  chosenOf,
  type LevelTold,
  useClassSteps,
  useLevelsTold,
  useStyleStep,
} from "@/api/classes";
import type { SchoolClass, StyleDoc } from "@/api/client";
import { useLine } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { Lines, XH } from "@/line/Strip";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Loaded } from "@/ui/States";
import { Tick } from "@/ui/Tick";
import { CARD } from "./card";
import { Height, LineNames, Rulings, Sample } from "./LinesSettings";
import { Pattern, RowSample } from "./RowSettings";

const PX_A_MM = 3.78; // as a browser takes a millimetre

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

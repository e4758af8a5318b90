import clsx from "clsx";
import { useState } from "react";
import { useRulings } from "@/api/classes";
import type { Ruling, SchoolClass } from "@/api/client";
import { useLine } from "@/api/queries";
import { DROP, Lines, RISE, XH } from "@/line/Strip";
import { Button } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { CARD } from "./card";

const SAMPLE = "hedge";
const LEAST_MM = 4;
const MOST_MM = 20;

/** A word of the class's letters on some lines. */
export function Sample(props: { ruling: Ruling; classId: number; tall: number; label?: string }) {
  const { data } = useLine(SAMPLE, props.classId);
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
      <Lines from={0} to={40 * XH} ruling={props.ruling} texts={data ? [{ x: 60, boxed: data.boxed }] : []} />
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

export function Height({ kept, onHeight }: { kept: number; onHeight: (mm: number) => void }) {
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

export function Rulings({ chosen, onRuling }: { chosen: SchoolClass; onRuling: (key: string) => void }) {
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

const LINES = ["rise", "mid", "base", "drop"] as const;

/** What the lines are called; an empty field is the usual name. */
export function LineNames({
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

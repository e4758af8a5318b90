import clsx from "clsx";
import { useState } from "react";
import type { Ring } from "@/api/client";
import { type Rings, useRings } from "@/api/words";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { Tick } from "@/ui/Tick";
import { Chosen, useChosen } from "./Chosen";
import { Slot, TypedSlot } from "./Slot";
import { useAsked } from "./useAsked";
import { SoundSlot, Whose } from "./Whose";

const MINE: (keyof Rings)[] = ["start", "through", "length", "wanted", "allow_drop", "seed"];
const KINDS = [
  ["usual", "of about the length asked for"],
  ["easiest", "easiest first"],
  ["longest", "longest first"],
  ["shortest", "shortest first"],
] as const;
const LENGTHS = [4, 6, 7, 8, 10, 12];

const textsOf = (ring: Ring) => ring.words.map((word) => word.text);

/** Rings of words: one sound changes a step, and back to where it began. */
export function RingsPart() {
  const { id } = useClass();
  const asked = useAsked();
  const { get, set, whose, some, search } = asked;
  const query = useRings(id, { ...whose, ...some<Rings>(MINE) });
  const [at, setAt] = useState(0);
  const { add } = useChosen();
  return (
    <>
      <p className="text-large leading-[52px]">
        Rings of{" "}
        <Slot
          name="How many words"
          value={get("length") || "7"}
          onChange={(length) => set({ length: length === "7" ? null : length })}
        >
          {LENGTHS.map((count) => (
            <option key={count} value={count}>
              about {count} words
            </option>
          ))}
        </Slot>
        , beginning with{" "}
        <TypedSlot
          name="First word"
          value={get("start")}
          most={20}
          placeholder="any word"
          onChange={(value) => set({ start: value.toLowerCase() || null })}
        />
        , through{" "}
        <SoundSlot
          none="any sound"
          name="Through a sound"
          value={get("through")}
          onChange={(value) => set({ through: value || null })}
        />
        <Whose asked={asked} />,{" "}
        <Slot
          name="Which rings"
          value={get("wanted") || "usual"}
          onChange={(wanted) => set({ wanted: wanted === "usual" ? null : wanted })}
        >
          {KINDS.map(([value, said]) => (
            <option key={value} value={value}>
              {said}
            </option>
          ))}
        </Slot>
      </p>
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <Tick on={get("allow_drop") === "true"} onTick={(on) => set({ allow_drop: on || null })}>
          A step may add a sound or take one away
        </Tick>
        <Button onClick={() => set({ seed: Number(get("seed") || 0) + 1 })}>Other rings</Button>
      </div>
      <Loaded query={query} what="rings">
        {(rings) => {
          const ring = rings[Math.min(at, rings.length - 1)];
          if (!ring)
            return (
              <Empty title="There is no such ring of these words">
                Ask for more sounds or any letters, or let a step add a sound or take one away.
              </Empty>
            );
          return (
            <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,520px)] gap-8 max-[1000px]:grid-cols-1">
              <ol aria-label="Rings">
                {rings.map((one, i) => (
                  <li key={textsOf(one).join(" ")} className="border-b border-hair">
                    <button
                      type="button"
                      aria-pressed={one === ring}
                      onClick={() => setAt(i)}
                      className={clsx("block w-full px-2 py-3 text-left", one === ring && "bg-ochre/45")}
                    >
                      {textsOf(one).join(" · ")}
                    </button>
                  </li>
                ))}
              </ol>
              <section aria-label="The ring" className="text-center">
                <RingDrawn ring={ring} />
                <div className="mt-2 flex flex-wrap justify-center gap-2">
                  <LinkButton
                    to={`/board/words/rings?${new URLSearchParams([...search, ["ring", String(rings.indexOf(ring))]])}`}
                  >
                    On the board
                  </LinkButton>
                  <Button look="quiet" onClick={() => add(textsOf(ring))}>
                    Choose its words
                  </Button>
                </div>
              </section>
            </div>
          );
        }}
      </Loaded>
      <Chosen />
    </>
  );
}

const WIDE = 2400;
const HIGH = 1500;

/** The words around a ring, in the class's hand, with what changes between them. */
function RingDrawn({ ring }: { ring: Ring }) {
  const count = ring.words.length;
  const place = (i: number): [number, number] => {
    const turn = (2 * Math.PI * i) / count - Math.PI / 2;
    return [WIDE / 2 + 850 * Math.cos(turn), HIGH / 2 + 560 * Math.sin(turn)];
  };
  return (
    <svg
      role="img"
      aria-label={`Ring: ${[...textsOf(ring), textsOf(ring)[0]].join(", ")}`}
      viewBox={`0 -140 ${WIDE} ${HIGH + 280}`}
      className="w-full"
    >
      <ellipse
        cx={WIDE / 2}
        cy={HIGH / 2}
        rx={850}
        ry={560}
        fill="none"
        stroke="var(--color-pale)"
        strokeWidth={6}
        strokeDasharray="22 22"
      />
      {ring.words.map((word, i) => {
        const [x, y] = place(i);
        const wide = (word.drawing.bounds[2] ?? 0) - (word.drawing.bounds[0] ?? 0);
        return (
          <g key={word.text}>
            <rect
              x={x - wide / 2 - 40}
              y={y - 120}
              width={wide + 80}
              height={200}
              fill="var(--color-paper)"
            />
            <g transform={`translate(${x} ${y + 40})`}>
              <Glyph letter={word.drawing} x={centred(word.drawing, 0)} weight={13} />
            </g>
          </g>
        );
      })}
      {ring.steps.map((step, i) => {
        const [x, y] = place(i + 0.5);
        return (
          <text
            // biome-ignore lint/suspicious/noArrayIndexKey: steps are known by their place
            key={i}
            x={WIDE / 2 + 0.74 * (x - WIDE / 2)}
            y={HIGH / 2 + 0.74 * (y - HIGH / 2)}
            textAnchor="middle"
            fontSize={62}
            fill="var(--color-graphite)"
          >
            {changeOf(step.gone, step.new)}
          </text>
        );
      })}
      <text x={WIDE / 2} y={HIGH / 2} textAnchor="middle" fontSize={72} fill="var(--color-graphite)">
        one change a step,
      </text>
      <text x={WIDE / 2} y={HIGH / 2 + 90} textAnchor="middle" fontSize={72} fill="var(--color-graphite)">
        and back to {ring.words[0]?.text}
      </text>
    </svg>
  );
}

const changeOf = (gone: string, come: string) =>
  gone && come ? `${gone} → ${come}` : gone ? `without ${gone}` : `with ${come}`;

import type { ClassChange } from "@/api/classes";
import type { SchoolClass, Support } from "@/api/client";
import { useLetter } from "@/api/queries";
import { centred, Glyph } from "@/line/Letter";
import { DROP, Lines, RISE, XH } from "@/line/Strip";
import { Offer } from "@/screens/write/WritingStrip";
import { Button } from "@/ui/Button";
import { Tick } from "@/ui/Tick";

const MOST_OF_A_KIND = 8;
const MOST = 12;
const SLOTS: { kind: Support; words: string }[] = [
  { kind: "trace", words: "to trace" },
  { kind: "finish", words: "to finish" },
  { kind: "ring", words: "from a ring" },
  { kind: "alone", words: "alone" },
];

const ROW_LETTER = "n";
const SLOT = 2 * XH;

/** How a row goes, slot by slot, on the class's line: what a child finds there before the pen comes. */
export function RowSample({ chosen }: { chosen: SchoolClass }) {
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

const countOf = (pattern: Support[], kind: Support) => pattern.filter((one) => one === kind).length;

export function Pattern({
  chosen,
  onChange,
}: {
  chosen: SchoolClass;
  onChange: (body: ClassChange) => void;
}) {
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

import clsx from "clsx";
import { useDeferredValue, useState } from "react";
import type { Alphabet, FamilyBoard, SchemeKey } from "@/api/client";
import { useMovesOf, useRulePreview } from "@/api/queries";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { RISE, XH } from "@/line/Strip";

type Props = {
  board: FamilyBoard;
  scheme: SchemeKey;
  alphabet: Alphabet;
  /** The family the rule is of; none for a new one. */
  family?: string;
  value: string;
  onChange: (value: string) => void;
};

type Part = "first" | "has" | "not" | null;
const PARTS: { value: Part; words: string }[] = [
  { value: null, words: "does not matter" },
  { value: "first", words: "must come first" },
  { value: "has", words: "must be there" },
  { value: "not", words: "must not be there" },
];

/** A rule made by pointing at the moves of a letter, or typed; what it would do is seen before it is used. */
export function RuleField(props: Props) {
  const { board, value, onChange } = props;
  return (
    <div className="space-y-3">
      <ByPointing board={board} onRule={onChange} />
      <label className="block">
        <span className="text-small text-graphite">Rule (leave it empty to put letters in by hand)</span>
        <textarea
          rows={2}
          value={value}
          maxLength={400}
          spellCheck={false}
          onChange={(event) => onChange(event.target.value)}
          className="mt-1 w-full border-b-2 border-line bg-band px-2 py-1"
        />
      </label>
      <div className="min-h-[92px]">
        {/* room kept for it, or what stands below would move away under the pointer */}
        <Preview {...props} />
      </div>
      <details className="text-small text-graphite">
        <summary className="cursor-pointer">How a rule is written</summary>
        <p className="mt-1">
          “begins with: down, back, over” takes letters whose first stroke goes down, back along the same
          line, and over. Put “;” between conditions that must all hold and “or” between ways that will do.
        </p>
        <p className="mt-1">Conditions: {board.clauses.join(", ")}.</p>
        <p className="mt-1">Moves: {board.words.join(", ")}.</p>
      </details>
    </div>
  );
}

/** The rule that the chosen parts of a letter's moves come to. */
function ruleOf(words: string[], parts: Part[]): string {
  const of = (part: Part) => [...new Set(words.filter((_, i) => parts[i] === part))];
  const first = words.slice(0, parts.lastIndexOf("first") + 1);
  const clauses = [
    first.length > 0 && `begins with: ${first.join(", ")}`,
    ...of("has").map((word) => `has: ${word}`),
    of("not").length > 0 && `has no: ${of("not").join(", ")}`,
  ];
  return clauses.filter(Boolean).join("; ");
}

/** Take a letter; its moves stand as pictures, and of each it is said what it is to the family. */
function ByPointing({ board, onRule }: { board: FamilyBoard; onRule: (rule: string) => void }) {
  const { id } = useClass();
  const letters = board.families.flatMap((family) => family.members.map(({ drawing }) => drawing));
  const [like, setLike] = useState("");
  const { data: moves } = useMovesOf(id, like);
  const [parts, setParts] = useState<Part[]>([]);
  const words = moves?.map((one) => one.word) ?? [];
  const choose = (at: number, part: Part) => {
    const next = words.map((_, i) => (i === at ? part : (parts[i] ?? null)));
    setParts(next);
    const rule = ruleOf(words, next);
    if (rule) onRule(rule);
  };
  return (
    <fieldset>
      <legend className="text-small text-graphite">Like which letter?</legend>
      <div className="flex flex-wrap gap-1">
        {letters.map((drawing) => (
          <button
            key={drawing.char}
            type="button"
            aria-label={`Like ${drawing.char}`}
            aria-pressed={like === drawing.char}
            onClick={() => {
              setLike(drawing.char);
              setParts([]);
            }}
            className="rounded-sm border border-transparent hover:border-line aria-pressed:border-ink aria-pressed:bg-ochre"
          >
            <svg viewBox="-80 -215 160 330" className="h-12" aria-hidden="true">
              <Glyph letter={drawing} x={centred(drawing, 0)} weight={14} />
            </svg>
          </button>
        ))}
      </div>
      {moves && (
        <ol aria-label={`Moves of ${like}`} className="mt-2 flex flex-wrap gap-3">
          {moves.map((move, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a move is known by its place
            <li key={`${like} ${i}`} className="w-[132px]">
              <svg
                viewBox={`-60 ${RISE - 15} 220 ${3 * XH + 30}`}
                className="mx-auto block h-20"
                aria-hidden="true"
              >
                <g fill="none" strokeLinecap="round" strokeLinejoin="round">
                  {moves.map((other, k) => (
                    <path
                      // biome-ignore lint/suspicious/noArrayIndexKey: a move is known by its place
                      key={k}
                      d={other.path}
                      stroke="var(--color-pale)"
                      strokeWidth={12}
                    />
                  ))}
                  <path d={move.path} stroke="var(--color-ink)" strokeWidth={14} />
                </g>
              </svg>
              <select
                aria-label={`${i + 1}, ${move.word}`}
                value={parts[i] ?? ""}
                onChange={(event) => choose(i, (event.target.value || null) as Part)}
                className={clsx(
                  "h-8 w-full rounded-sm border border-pale px-1 text-small",
                  parts[i] ? "bg-ochre" : "bg-sheet",
                )}
              >
                {PARTS.map((one) => (
                  <option key={one.words} value={one.value ?? ""}>
                    {one.words}
                  </option>
                ))}
              </select>
              <p className="text-center text-small">{move.word}</p>
            </li>
          ))}
        </ol>
      )}
    </fieldset>
  );
}

/** The letters that the rule would have, which come and which go; or why it cannot be read. */
function Preview({ scheme, alphabet, family, value }: Props) {
  const { id } = useClass();
  const rule = useDeferredValue(value.trim());
  const { data, error } = useRulePreview(id, scheme, alphabet, family ?? "", rule);
  if (!rule) return null;
  if (error) return <p className="text-small text-brick">{error.message}</p>;
  if (!data) return null;
  const { letters, come, go } = data;
  return (
    <section aria-label="What the rule does" className="border-t border-hair pt-2">
      <p className="text-small text-graphite">
        {letters.length === 0 && "No letter is like that."}
        {come.length > 0 && `Come: ${come.join(", ")}. `}
        {go.length > 0 && `Go: ${go.join(", ")}. `}
        {letters.length > 0 && !come.length && !go.length && "The letters stay as they are."}
      </p>
      <div className="flex flex-wrap">
        {letters.map((drawing) => (
          <svg
            key={drawing.char}
            viewBox="-80 -215 160 330"
            className={clsx("h-14", come.includes(drawing.char) && "bg-ochre/50")}
            role="img"
            aria-label={drawing.char}
          >
            <Glyph letter={drawing} x={centred(drawing, 0)} weight={13} />
          </svg>
        ))}
      </div>
    </section>
  );
}

import type { FamilyBoard } from "@/api/client";

type Props = { board: FamilyBoard; value: string; onChange: (value: string) => void };

/** A rule in plain words, with the words there are. */
export function RuleField({ board, value, onChange }: Props) {
  return (
    <div>
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

import clsx from "clsx";
import type { Explained, MoveInk } from "@/api/client";

/** Which ink is which move: each phrase of the model lights the ink that answers to it. */
export function Moves(props: {
  explained: Explained | undefined;
  lit: MoveInk | undefined;
  onLight: (move: MoveInk | undefined) => void;
}) {
  const { explained, lit, onLight } = props;
  return (
    <ol aria-label="Which ink is which move" className="flex min-h-6 flex-wrap gap-x-1 text-small">
      {explained?.moves.map((move, i) => (
        <li key={`${move.stroke} ${move.first_move}`}>
          <button
            type="button"
            aria-pressed={move === lit}
            className={clsx(
              "rounded-sm px-1 py-[2px] text-left",
              move === lit ? "bg-ochre" : "hover:bg-ochre/35",
            )}
            onMouseEnter={() => onLight(move)}
            onMouseLeave={() => onLight(undefined)}
            onFocus={() => onLight(move)}
            onBlur={() => onLight(undefined)}
          >
            <span className="text-graphite">{i + 1}</span> {move.words.replace(/\.$/, "")}
            {move.runs.length === 0 && <span className="text-brick"> · no ink</span>}
          </button>
        </li>
      ))}
    </ol>
  );
}

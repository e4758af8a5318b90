import { useState } from "react";
import { between, tapped } from "./cut";

type Props = {
  text: string;
  units: string[];
  /** For each sound the letters of the word that it is. */
  places: number[][];
  /** The sounds with - between them. */
  onCut: (units: string) => void;
};

/** A word with its sounds apart: a tap between two letters parts them or puts them together. */
export function Cut({ text, units, places, onCut }: Props) {
  const [typing, setTyping] = useState(false);
  if (typing)
    return (
      <TypedCut
        text={text}
        units={units}
        onDone={(typed) => {
          setTyping(false);
          if (typed) onCut(typed);
        }}
      />
    );
  const how = units.some((unit) => unit.includes("_")) ? units.join("-") : "type";
  return (
    <span className="inline-flex items-center text-large">
      {[...text].map((letter, i) => {
        const joint = between(units, places, i);
        const together = joint === "one";
        const own = places.find((some) => some.includes(i)) ?? [];
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: letters are known by their place
          <span key={i} className="inline-flex items-center">
            <span className={own.length > 1 ? "border-b-2 border-line" : ""}>{letter}</span>
            {i + 1 < text.length &&
              (joint === "split" ? (
                <span aria-hidden="true" className="w-2" />
              ) : (
                <button
                  type="button"
                  aria-label={`${together ? "Part" : "Join"} ${letter} and ${text[i + 1]} in ${text}`}
                  onClick={() => onCut(tapped(units, places, i).join("-"))}
                  className="inline-flex h-8 w-4 items-center justify-center hover:bg-ochre"
                >
                  <span
                    aria-hidden="true"
                    className={together ? "h-1 w-1 rounded-full bg-pale" : "h-4 border-l-2 border-mid"}
                  />
                </button>
              ))}
          </span>
        );
      })}
      <button
        type="button"
        aria-label={`${how}: type the sounds of ${text}`}
        onClick={() => setTyping(true)}
        className="ml-3 min-h-8 text-small text-graphite underline decoration-pale underline-offset-4"
      >
        {how}
      </button>
    </span>
  );
}

function TypedCut({
  text,
  units,
  onDone,
}: Omit<Props, "places" | "onCut"> & { onDone: (typed: string) => void }) {
  const [typed, setTyped] = useState(units.join("-"));
  return (
    <form
      className="inline-flex"
      onSubmit={(event) => {
        event.preventDefault();
        onDone(typed.trim());
      }}
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: it was asked for just now
        autoFocus
        aria-label={`Sounds of ${text}`}
        value={typed}
        maxLength={60}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => onDone("")}
        className="h-8 w-44 border-b-2 border-line bg-band px-2"
      />
    </form>
  );
}

import type { StyleDoc, StyleLook } from "@/api/client";
import { centred, Glyph } from "@/line/Letter";
import { Button } from "@/ui/Button";

type Props = {
  look: StyleLook;
  draft: StyleDoc;
  letter: string;
  onLetter: (letter: string) => void;
  onChange: (part: Partial<StyleDoc>) => void;
};

type Measure = StyleLook["measures"][number];

/** Changing the measures of one letter within its limits; other letters with that part are named. */
export function Adjusting({ look, draft, letter, onLetter, onChange }: Props) {
  const adjustments = draft.adjustments ?? [];
  const keep = (measure: string, value: number, of: string) =>
    onChange({
      adjustments: [
        ...adjustments.filter((one) => one.measure !== measure || (one.letter !== of && of !== "")),
        { letter: of, measure, value },
      ],
    });
  // what was just chosen, before the letters have been drawn anew
  const adjusted = (key: string) =>
    adjustments.findLast((one) => one.measure === key && (one.letter === letter || one.letter === ""))?.value;
  const reset = () => onChange({ adjustments: adjustments.filter((one) => one.letter !== letter) });
  return (
    <section aria-label="Adjust a letter" className="mt-4 border-t-2 border-ink pt-2">
      <div className="flex items-baseline justify-between">
        <h2 className="font-bold">Adjust a letter</h2>
        {adjustments.some((one) => one.letter === letter) && (
          <Button look="quiet" onClick={reset}>
            {letter} as it was
          </Button>
        )}
      </div>
      <ul className="flex flex-wrap">
        {look.letters.map((drawing) => (
          <li key={drawing.char}>
            <button
              type="button"
              aria-label={`Adjust ${drawing.char}`}
              aria-pressed={drawing.char === letter}
              onClick={() => onLetter(drawing.char)}
              className="rounded-sm hover:bg-ochre/35 aria-pressed:bg-ochre"
            >
              <svg
                viewBox={`${-centred(drawing, 0) - 95} -225 190 345`}
                className="h-[58px] w-[32px]"
                aria-hidden="true"
              >
                <Glyph letter={drawing} x={0} weight={13} />
              </svg>
            </button>
          </li>
        ))}
      </ul>
      {look.measures.map((measure) => (
        <Slider
          key={measure.key}
          measure={measure}
          value={adjusted(measure.key)}
          letter={letter}
          onChange={keep}
        />
      ))}
    </section>
  );
}

type SliderProps = {
  measure: Measure;
  value: number | undefined;
  letter: string;
  onChange: (measure: string, value: number, of: string) => void;
};

function Slider({ measure, value: adjusted, letter, onChange }: SliderProps) {
  const value = adjusted ?? measure.value;
  const name = measure.words.charAt(0).toUpperCase() + measure.words.slice(1);
  const inDegrees = measure.key.endsWith("_deg");
  return (
    <div className="mt-2 grid grid-cols-[260px_minmax(0,1fr)_auto] items-center gap-4">
      <label className="contents">
        <span>
          {name}: {inDegrees ? `${value.toFixed(0)} degrees` : value.toFixed(2)}
        </span>
        <input
          type="range"
          min={measure.low}
          max={measure.high}
          step={inDegrees ? 1 : 0.01}
          value={value}
          onChange={(event) => onChange(measure.key, Number(event.target.value), letter)}
          className="accent-[var(--color-ink)]"
        />
      </label>
      {measure.shared_by.length > 0 && measure.key !== "stretch" ? (
        <Button
          look="quiet"
          aria-label={`${name}: the same for ${measure.shared_by.join(" ")}`}
          onClick={() => onChange(measure.key, value, "")}
        >
          The same for {measure.shared_by.join(" ")}
        </Button>
      ) : (
        <span />
      )}
    </div>
  );
}

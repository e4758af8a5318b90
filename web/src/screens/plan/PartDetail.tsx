import clsx from "clsx";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import type { LessonPage, LessonPart, PageIn } from "@/api/client";
import { centred, Glyph, widthOf } from "@/line/Letter";
import { Strip } from "@/line/Strip";
import { Button } from "@/ui/Button";
import { FIELD } from "./Days";

type Fields = Omit<PageIn, "number">;
type Props = {
  page: LessonPage;
  part: LessonPart;
  onChange: (fields: Fields) => void;
  onLeaveOut: () => void;
};

const CAN_LEAVE = new Set(["before", "date", "recall", "air", "words", "sentence", "best"]);

/** What one part of the lesson holds, drawn on the line, with what can be changed of it. */
export function PartDetail({ page, part, onChange, onLeaveOut }: Props) {
  return (
    <section aria-label={part.title} className="border-t-2 border-ink pt-2">
      <div className="flex items-center gap-4">
        <h2 className="font-bold">{part.title}</h2>
        {CAN_LEAVE.has(part.kind) && page.can_change && (
          <Button look="quiet" className="ml-auto" onClick={onLeaveOut}>
            Leave it out
          </Button>
        )}
      </div>
      <Held page={page} part={part} onChange={onChange} />
    </section>
  );
}

function Held({ page, part, onChange }: Omit<Props, "onLeaveOut">) {
  switch (part.kind) {
    case "show":
    case "air":
      return <Shown page={page} />;
    case "recall":
      return (
        <>
          <Row label={`Recall: ${page.recall.map((one) => one.text).join(", ")}`}>
            {page.recall.map((one) => one.drawing)}
          </Row>
          <Typed
            name="Letters to recall"
            value={page.recall.map((one) => one.text).join("")}
            most={8}
            onKeep={(recall) => onChange({ recall })}
          />
        </>
      );
    case "row":
      return <Counts page={page} onChange={onChange} />;
    case "words":
      return <Words page={page} onChange={onChange} />;
    case "sentence":
      return (
        <>
          {page.sentence && <Row label={page.sentence.text}>{[page.sentence.drawing]}</Row>}
          <Typed
            name="Sentence"
            value={page.sentence?.text ?? ""}
            most={120}
            onKeep={(sentence) => onChange({ sentence })}
          />
        </>
      );
    case "date":
      return (
        <>
          {page.date_drawn && <Row label={page.date_drawn.text}>{[page.date_drawn.drawing]}</Row>}
          <Typed
            name="The date, as it is written"
            value={page.date_drawn?.text ?? ""}
            most={40}
            onKeep={(date) => onChange({ date })}
          />
        </>
      );
    default:
      return <p className="mt-2 text-large first-letter:uppercase">{part.says}.</p>;
  }
}

const GAP = 90;

/** Letters or words side by side on the line. */
function Row({ label, children }: { label: string; children: LessonPage["recall"][number]["drawing"][] }) {
  const widths = children.map(widthOf);
  const width = Math.max(
    900,
    widths.reduce((sum, one) => sum + one + GAP, GAP),
  );
  let x = GAP;
  return (
    <Strip width={width} label={label} className="mt-2 block max-h-[220px] w-full">
      {children.map((one, i) => {
        const at = x - (one.bounds[0] ?? 0);
        x += (widths[i] ?? 0) + GAP;
        return <Glyph key={one.char} letter={one} x={at} weight={10} />;
      })}
    </Strip>
  );
}

const SHOWN = 560;

/** What is new, with the slip to show beside it crossed out, and the words to say. */
function Shown({ page }: { page: LessonPage }) {
  const several = page.show.length > 1;
  const each = page.show.map(({ item, says, slip }) => (
    <div key={item.text} className="mt-2 min-w-0">
      <Strip width={SHOWN * 2} label={item.name} className="block max-h-[230px] w-full">
        <Glyph letter={item.drawing} x={centred(item.drawing, SHOWN / 2)} weight={12} />
        {slip && <CrossedSlip slip={slip} middle={SHOWN * 1.5} />}
      </Strip>
      {slip && <p className="text-right text-small text-graphite">{slip.name}</p>}
      <p className={several ? "" : "text-large"}>{says.join(" ")}</p>
    </div>
  ));
  return <div className={clsx("grid gap-x-6", several && "grid-cols-2")}>{each}</div>;
}

type SlipProps = { slip: NonNullable<LessonPage["show"][number]["slip"]>; middle: number };

/** A slip in grey with two lines through it. */
export function CrossedSlip({ slip, middle }: SlipProps) {
  const xs = slip.points.flat().map(([x = 0]) => x);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const shift = middle - (left + right) / 2;
  return (
    <g transform={`translate(${shift} 0)`} strokeLinecap="round" strokeLinejoin="round" fill="none">
      {slip.paths.map((d) => (
        <path key={d} d={d} stroke="var(--color-mid)" strokeWidth={12} />
      ))}
      <path
        d={`M ${left - 30} -190 L ${right + 30} 60 M ${left - 30} 60 L ${right + 30} -190`}
        stroke="var(--color-brick)"
        strokeWidth={5}
      />
    </g>
  );
}

type TypedProps = { name: string; value: string; most: number; onKeep: (value: string | null) => void };

/** A line that is typed and kept; emptied it goes back to what is worked out. */
function Typed({ name, value, most, onKeep }: TypedProps) {
  const [typed, setTyped] = useState(value);
  return (
    <form
      className="mt-3 flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onKeep(typed.trim() || null);
      }}
    >
      <label className="flex-1">
        <span className="block text-small text-graphite">{name}</span>
        <input
          value={typed}
          maxLength={most}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          className={`${FIELD} w-full`}
        />
      </label>
      <Button type="submit" disabled={typed.trim() === value}>
        Keep
      </Button>
    </form>
  );
}

function Counts({ page, onChange }: { page: LessonPage; onChange: (fields: Fields) => void }) {
  const navigate = useNavigate();
  return (
    <>
      <Row label={page.show.map(({ item }) => item.name).join(", ")}>
        {page.show.map(({ item }) => item.drawing)}
      </Row>
      <div className="mt-3 flex flex-wrap items-end gap-4">
        {(["trace", "finish", "alone"] as const).map((name) => (
          <Count key={name} name={name} value={page[name]} onCount={(count) => onChange({ [name]: count })} />
        ))}
        {page.new[0] && (
          <Button look="quiet" onClick={() => navigate(`/write?letter=${page.new[0]}`)}>
            Write a row now
          </Button>
        )}
      </div>
    </>
  );
}

type CountProps = { name: string; value: number; onCount: (count: number) => void };

const Count = ({ name, value, onCount }: CountProps): ReactNode => (
  <label>
    <span className="block text-small text-graphite first-letter:uppercase">{name}</span>
    <input
      type="number"
      min={0}
      max={12}
      value={value}
      onChange={(event) => onCount(Math.max(0, Math.min(12, Number(event.target.value) || 0)))}
      className={`${FIELD} w-20`}
    />
  </label>
);

function Words({ page, onChange }: { page: LessonPage; onChange: (fields: Fields) => void }) {
  const navigate = useNavigate();
  const texts = page.words.map((one) => one.text);
  const together = encodeURIComponent(texts.join(" "));
  return (
    <>
      <Row label={texts.join(", ")}>{page.words.map((one) => one.drawing)}</Row>
      <Typed
        name="Words, with a space between"
        value={texts.join(" ")}
        most={120}
        onKeep={(typed) => onChange({ words: typed === null ? null : typed.split(/\s+/).slice(0, 12) })}
      />
      <div className="mt-2 flex flex-wrap gap-2">
        <Button look="quiet" onClick={() => navigate(`/words/find?chosen=${together}`)}>
          Find others
        </Button>
        <Button look="quiet" onClick={() => navigate(`/write?what=words&words=${together}`)}>
          To write
        </Button>
        <Button look="quiet" onClick={() => navigate(`/words/dictation?words=${together}`)}>
          Dictate them
        </Button>
      </div>
    </>
  );
}

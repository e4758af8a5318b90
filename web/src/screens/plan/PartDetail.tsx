import clsx from "clsx";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import type { LessonPage, LessonPart, PageIn } from "@/api/client";
import { centred, Glyph } from "@/line/Letter";
import { SideBySide } from "@/line/SideBySide";
import { SlipInk } from "@/line/SlipInk";
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

const ROW = "mt-2 block max-h-[220px] w-full";
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
          <SideBySide className={ROW} label={`Recall: ${page.recall.map((one) => one.text).join(", ")}`}>
            {page.recall.map((one) => one.drawing)}
          </SideBySide>
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
          {page.sentence && (
            <SideBySide className={ROW} label={page.sentence.text}>
              {[page.sentence.drawing]}
            </SideBySide>
          )}
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
          {page.date_drawn && (
            <SideBySide className={ROW} label={page.date_drawn.text}>
              {[page.date_drawn.drawing]}
            </SideBySide>
          )}
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

const SHOWN = 560;

/** What is new, with the slip to show beside it crossed out, and the words to say. */
function Shown({ page }: { page: LessonPage }) {
  const several = page.show.length > 1;
  const each = page.show.map(({ item, says, slip }) => (
    <div key={item.text} className="mt-2 min-w-0">
      <Strip width={SHOWN * 2} label={item.name} className="block max-h-[230px] w-full">
        <Glyph letter={item.drawing} x={centred(item.drawing, SHOWN / 2)} weight={12} />
        {slip && <SlipInk slip={{ ...slip, crossed: true }} middle={SHOWN * 1.5} />}
      </Strip>
      {slip && <p className="text-right text-small text-graphite">{slip.name}</p>}
      <p className={several ? "" : "text-large"}>{says.join(" ")}</p>
    </div>
  ));
  return <div className={clsx("grid gap-x-6", several && "grid-cols-2")}>{each}</div>;
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
      <SideBySide className={ROW} label={page.show.map(({ item }) => item.name).join(", ")}>
        {page.show.map(({ item }) => item.drawing)}
      </SideBySide>
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
      <SideBySide className={ROW} label={texts.join(", ")}>
        {page.words.map((one) => one.drawing)}
      </SideBySide>
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

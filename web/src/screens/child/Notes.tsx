import { useState } from "react";
import type { Story } from "@/api/client";
import { useNotes } from "@/api/overtime";
import { momentFormat } from "@/app/days";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { LevelChoice } from "@/ui/LevelChoice";

const day = momentFormat({ day: "numeric", month: "long" });
const FIELD = "mt-1 w-full border-b-2 border-line bg-band px-2 py-1";

/** What to mind with the child, and the teacher's dated notes. */
export function Notes({ story }: { story: Story }) {
  const { add, takeBack, mind } = useNotes(story.child.id);
  const { child } = story;
  const { level: classLevel } = useClass();
  const [text, setText] = useState("");
  const [caution, setCaution] = useState(story.caution);
  const trouble = add.error ?? takeBack.error ?? mind.error;
  return (
    <section aria-label="Notes" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">Notes</h2>
      <div className="mt-1 flex flex-wrap gap-x-8 gap-y-1">
        <LevelChoice level={child.level} followed={classLevel} onChoose={(level) => mind.mutate({ level })} />
        <label className="flex items-center gap-2 text-small text-graphite">
          Writes with
          <select
            value={child.hand}
            onChange={(event) => mind.mutate({ hand: event.target.value === "left" ? "left" : "right" })}
            className="h-8 rounded-sm border border-pale bg-paper px-1 text-body text-ink"
          >
            <option value="right">the right hand</option>
            <option value="left">the left hand</option>
          </select>
        </label>
      </div>
      <label className="mt-1 block text-small text-graphite">
        To mind: posture, grip, breaks
        <textarea
          value={caution}
          maxLength={400}
          rows={2}
          onChange={(event) => setCaution(event.target.value)}
          onBlur={() => caution !== story.caution && mind.mutate({ caution })}
          className={`${FIELD} text-body text-ink`}
        />
      </label>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(text.trim(), { onSuccess: () => setText("") });
        }}
      >
        <label className="flex-1 text-small text-graphite">
          A note of today
          <input
            value={text}
            maxLength={2000}
            onChange={(event) => setText(event.target.value)}
            className={`${FIELD} h-10 text-body text-ink`}
          />
        </label>
        <Button type="submit" disabled={!text.trim() || add.isPending}>
          Keep
        </Button>
      </form>
      {trouble && (
        <p role="alert" className="text-brick">
          {trouble.message}
        </p>
      )}
      <ul className="mt-2">
        {story.notes.map((note) => (
          <li key={note.id} className="flex gap-3 border-b border-hair py-1">
            <span className="w-28 shrink-0 text-graphite">{day(note.at)}</span>
            <span className="flex-1">{note.text}</span>
            <button
              type="button"
              aria-label={`Take back: ${note.text}`}
              className="text-small text-graphite hover:text-brick"
              onClick={() => takeBack.mutate(note.id)}
            >
              take back
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-small text-graphite">
        Stop when writing hurts; sit well, hold the pen loosely, and take breaks. Where a difficulty lasts,
        ask the qualified professionals your school works with: First Loop measures letters and does not
        diagnose.
      </p>
    </section>
  );
}

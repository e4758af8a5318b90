import { useState } from "react";
import type { PlannedLesson } from "@/api/client";
import { usePlanSteps } from "@/api/plan";
import { dayFormat, schoolDay } from "@/app/days";
import { useClass } from "@/app/school";
import { Button, LinkButton } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Tick } from "@/ui/Tick";

const longDay = dayFormat({ weekday: "long", day: "numeric", month: "long" });

/** One lesson of the term: to its page, locked or not, and what became of it. */
export function LessonDialog({ lesson, onClose }: { lesson: PlannedLesson; onClose: () => void }) {
  const { id } = useClass();
  const steps = usePlanSteps(id);
  const begun = lesson.day <= schoolDay();
  const done = { onSuccess: onClose };
  const error = steps.lock.error ?? steps.tell.error;
  return (
    <Dialog title={longDay(lesson.day)} open onOpenChange={(on) => !on && onClose()}>
      <p>
        {lesson.title} · {lesson.minutes} minutes
      </p>
      {error && (
        <p role="alert" className="mt-2 text-brick">
          {error.message}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        <LinkButton look="strong" to={`/plan/lesson/${lesson.key}`}>
          Open the lesson
        </LinkButton>
        {(lesson.can_change || lesson.locked) && (
          <Button
            pressed={lesson.locked}
            onClick={() => steps.lock.mutate({ key: lesson.key, locked: !lesson.locked }, done)}
          >
            {lesson.locked ? "Locked: let it move again" : "Lock it"}
          </Button>
        )}
      </div>
      {begun && (
        <section aria-label="What happened" className="mt-5 border-t border-hair pt-3">
          <h3 className="font-bold">What happened?</h3>
          <WhatWasShown
            letters={lesson.new}
            shown={lesson.shown}
            onTell={(shown) => steps.tell.mutate({ key: lesson.key, shown }, done)}
          />
        </section>
      )}
    </Dialog>
  );
}

type ShownProps = {
  letters: string[];
  shown: string[] | null;
  onTell: (shown: string[] | null) => void;
};

/** Which letters were shown, or that the lesson was missed. What was not shown moves to the next lessons. */
export function WhatWasShown({ letters, shown, onTell }: ShownProps) {
  const [ticked, setTicked] = useState(shown ?? letters);
  const all = letters.every((one) => ticked.includes(one));
  return (
    <>
      {letters.length > 0 && (
        <div className="mt-2 flex flex-wrap items-center gap-x-4">
          <span className="text-graphite">Shown:</span>
          {letters.map((one) => (
            <Tick
              key={one}
              on={ticked.includes(one)}
              onTick={(on) => setTicked(on ? [...ticked, one] : ticked.filter((other) => other !== one))}
            >
              {one}
            </Tick>
          ))}
        </div>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button onClick={() => onTell(ticked)}>{all ? "It was held as planned" : "It was cut short"}</Button>
        <Button onClick={() => onTell(null)}>It was missed</Button>
      </div>
      <p className="mt-2 text-small text-graphite">
        What was not shown comes first in the next lessons, and what follows moves no more than it must.
      </p>
    </>
  );
}

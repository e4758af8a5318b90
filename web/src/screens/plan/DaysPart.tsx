import { useState } from "react";
import { useNavigate } from "react-router";
import type { Plan } from "@/api/client";
import { usePlanSteps } from "@/api/plan";
import { useClass } from "@/app/school";
import { Button, LinkButton } from "@/ui/Button";
import { type Days, DaysFields } from "./Days";

/** The days of a plan's term. Letters move no more than they must; what is over stays. */
export function DaysPart({ plan }: { plan: Plan }) {
  const { id } = useClass();
  const steps = usePlanSteps(id);
  const navigate = useNavigate();
  const { name, first, last, minutes, holidays } = plan.term;
  const [days, setDays] = useState<Days>({ name, first, last, minutes, holidays });
  const [sure, setSure] = useState(false);
  const error = steps.days.error ?? steps.drop.error;
  // this page is another one as soon as the plan has changed, so the step itself is waited for
  const toTheTerm = (step: Promise<unknown>) =>
    void step.then(
      () => navigate("/plan"),
      () => undefined,
    );
  const address = `${window.location.origin}/api/classes/${id}/plan/lessons.ics`;
  return (
    <form
      className="flex max-w-[860px] flex-1 flex-col gap-5"
      onSubmit={(event) => {
        event.preventDefault();
        toTheTerm(steps.days.mutateAsync(days));
      }}
    >
      <DaysFields days={days} onDays={setDays} />
      {error && (
        <p role="alert" className="text-brick">
          {error.message}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" look="strong" disabled={steps.days.isPending}>
          Keep these days
        </Button>
        <p className="text-small text-graphite">
          Letters move as little as they must. It is one step to undo.
        </p>
      </div>
      <section aria-label="In your calendar" className="border-t border-hair pt-3">
        <h2 className="font-bold">In your calendar</h2>
        <p>
          A calendar on this machine can follow the plan at this address; a plan that changes changes there
          too.
        </p>
        <code className="block py-1 text-small break-all select-all">{address}</code>
      </section>
      <section aria-label="Another plan" className="border-t border-hair pt-3">
        <h2 className="font-bold">Another plan</h2>
        <p className="text-graphite">
          What was noted of lessons that were held stays in any case; so does everything children wrote.
        </p>
        <div className="mt-2 flex flex-wrap gap-2">
          <LinkButton to="/plan/new">Plan a term anew</LinkButton>
          {sure ? (
            <>
              <Button look="brick" onClick={() => toTheTerm(steps.drop.mutateAsync())}>
                Yes, put the plan away
              </Button>
              <Button onClick={() => setSure(false)}>Keep it</Button>
            </>
          ) : (
            <Button onClick={() => setSure(true)}>Do without a plan</Button>
          )}
        </div>
      </section>
    </form>
  );
}

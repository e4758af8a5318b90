import { NavLink, useParams } from "react-router";
import type { Plan } from "@/api/client";
import { usePlan, usePlanSteps } from "@/api/plan";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { Button, LINK } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { DaysPart } from "./DaysPart";
import { NewPlan } from "./NewPlan";
import { TermPart } from "./TermPart";

/** The term of the class: planned from nothing, or week by week as it is. */
export function PlanScreen() {
  const { id } = useClass();
  const query = usePlan(id);
  return (
    <Loaded query={query} what="the plan">
      {(plan) => (plan ? <Planned key={id} plan={plan} /> : <NewPlan key={id} />)}
    </Loaded>
  );
}

function Planned({ plan }: { plan: Plan }) {
  const { part = "term" } = useParams();
  const { id } = useClass();
  const steps = usePlanSteps(id);
  const undo = () => plan.can_undo && !steps.undo.isPending && steps.undo.mutate(undefined);
  useKeys({ u: undo });
  if (part === "new") return <NewPlan again />;
  return (
    <>
      <PageHead
        crowded
        title="Plan"
        sub={`${plan.class_name} · ${plan.term.name} · ${plan.lessons} lessons`}
      />
      <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <PlanTabs nextKey={plan.next_key} />
        <div role="toolbar" aria-label="Plan" className="ml-auto flex items-center gap-2">
          <a className={LINK} href={`/api/classes/${id}/plan/term.pdf`} target="_blank" rel="noreferrer">
            Print
          </a>
          <a className={LINK} href={`/api/classes/${id}/plan/lessons.ics`}>
            Calendar file
          </a>
          <a className={LINK} href={`/api/classes/${id}/plan/lessons.csv`}>
            Table
          </a>
          <Button disabled={!plan.can_undo} onClick={undo}>
            Undo
          </Button>
        </div>
      </div>
      {steps.undo.error && (
        <p role="alert" className="mb-2 text-brick">
          {steps.undo.error.message}
        </p>
      )}
      {part === "days" ? <DaysPart key={plan.number} plan={plan} /> : <TermPart plan={plan} />}
    </>
  );
}

const TAB = "border-b-2 px-2 py-1";

/** Term, next lesson, days: the parts of the plan as words. */
export function PlanTabs({ nextKey, lesson = false }: { nextKey: number | null; lesson?: boolean }) {
  const look = ({ isActive }: { isActive: boolean }) =>
    isActive ? `${TAB} border-brick font-bold` : `${TAB} border-transparent text-graphite hover:text-ink`;
  return (
    <nav aria-label="Parts of the plan" className="flex">
      <NavLink to="/plan" end className={look}>
        Term
      </NavLink>
      {lesson || nextKey !== null ? (
        <NavLink
          to={nextKey === null ? "." : `/plan/lesson/${nextKey}`}
          className={() => look({ isActive: lesson })}
        >
          {lesson ? "Lesson" : "Next lesson"}
        </NavLink>
      ) : null}
      <NavLink to="/plan/days" className={look}>
        Days and holidays
      </NavLink>
    </nav>
  );
}

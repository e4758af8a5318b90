import type { Plan } from "@/api/client";
import { usePlanSteps } from "@/api/plan";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { WasItShown } from "./WasItShown";

/** What moved in the latest step; lessons of which nothing is known; look-alikes that are close. */
export function ToldAndMoved({ plan }: { plan: Plan }) {
  const { id } = useClass();
  const steps = usePlanSteps(id);
  return (
    <>
      {plan.said.length > 0 && (
        <section aria-label="The latest change" className="border-t-2 border-ink pt-2" aria-live="polite">
          <h2 className="font-bold">The latest change</h2>
          <ul className="text-small">
            {plan.said.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
          {plan.can_undo && (
            <Button
              look="quiet"
              className="-ml-3"
              disabled={steps.undo.isPending}
              onClick={() => steps.undo.mutate(undefined)}
            >
              Put it back
            </Button>
          )}
        </section>
      )}
      <WasItShown asked={plan.to_tell} />
      {plan.close.length > 0 && (
        <section aria-label="Look-alikes" className="border-t-2 border-ink pt-2">
          <h2 className="font-bold">Look-alikes</h2>
          <ul className="text-small">
            {plan.close.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

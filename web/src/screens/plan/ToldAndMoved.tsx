import type { Plan } from "@/api/client";
import { usePlanSteps } from "@/api/plan";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";

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
      {plan.to_tell.length > 0 && (
        <section aria-label="Was it shown?" className="border-t-2 border-brick pt-2">
          <h2 className="font-bold">Was it shown?</h2>
          <ul className="space-y-2 text-small">
            {plan.to_tell.map((one) => (
              <li key={one.key}>
                <p>{one.says}</p>
                <div className="flex flex-wrap">
                  <Button
                    look="quiet"
                    className="-ml-3"
                    onClick={() => steps.tell.mutate({ key: one.key, shown: [...one.shown, ...one.letters] })}
                  >
                    Yes, shown
                  </Button>
                  <Button
                    look="quiet"
                    onClick={() => steps.tell.mutate({ key: one.key, shown: one.whole ? null : one.shown })}
                  >
                    No, move on
                  </Button>
                </div>
              </li>
            ))}
          </ul>
          {steps.tell.error && (
            <p role="alert" className="text-small text-brick">
              {steps.tell.error.message}
            </p>
          )}
        </section>
      )}
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

import clsx from "clsx";
import { useState } from "react";
import type { Order, OrderChoice, Plan } from "@/api/client";
import { usePlanOrders, usePlanSteps } from "@/api/plan";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { useSettled } from "@/ui/useSettled";

type Share = [number, number, number];

const SETTLES_MS = 250; // an order takes longer to find
const EVEN: Share = [0.5, 0.5, 0.5];
const AIMS = ["similar movements", "words soon", "look-alikes apart"] as const;

/** In which order the letters that are still to come are taught, and what each order costs. */
export function Orders({ plan }: { plan: Plan }) {
  const { id } = useClass();
  const steps = usePlanSteps(id);
  const [share, setShare] = useState<Share | null>(null);
  const [whole, setWhole] = useState(false);
  const asked = useSettled(share, SETTLES_MS);
  const query = usePlanOrders(id, plan.number, asked, whole);
  const waits = query.isPlaceholderData || asked !== share;
  const choices = query.data?.filter((one) => one.order !== "between") ?? [];
  const between = share ? query.data?.find((one) => one.order === "between") : undefined;
  return (
    <section aria-label="In which order?" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">In which order?</h2>
      <Choice
        name="Over"
        options={[
          { value: "rest", words: "what is to come" },
          { value: "whole", words: "the whole term" },
        ]}
        chosen={whole ? "whole" : "rest"}
        onChoose={(value) => setWhole(value === "whole")}
      />
      {query.isPending && (
        <p role="status" className="text-small text-graphite">
          Looking for the best orders…
        </p>
      )}
      {(query.error ?? steps.order.error) && (
        <p role="alert" className="text-small text-brick">
          {(query.error ?? steps.order.error)?.message}
        </p>
      )}
      <ul>
        {choices.map((choice) => (
          <li key={choice.order} className="border-b border-hair">
            <Choosing
              choice={choice}
              chosen={whole ? choice.order === "as-it-is" : plan.order === choice.order}
              disabled={whole || steps.order.isPending}
              onChoose={() => steps.order.mutate({ order: choice.order as Order, share: EVEN })}
            />
          </li>
        ))}
      </ul>
      {query.data &&
        (share ? (
          <fieldset className="mt-2">
            <legend className="text-small text-graphite">How much should each count?</legend>
            {AIMS.map((aim, i) => (
              <label key={aim} className="block text-small">
                {aim}
                <input
                  type="range"
                  min={0}
                  max={10}
                  value={Math.round((share[i] ?? 0) * 10)}
                  onChange={(event) => {
                    const next: Share = [...share];
                    next[i] = Number(event.target.value) / 10;
                    setShare(next);
                  }}
                  className="block w-full accent-ink"
                />
              </label>
            ))}
            {!between && waits && (
              <p role="status" className="text-small text-graphite">
                Looking for the best between them…
              </p>
            )}
            {between && (
              <div className={clsx("text-small", waits && "opacity-50")} aria-live="polite">
                <Says choice={between} />
                <Button
                  className="mt-2"
                  disabled={whole || steps.order.isPending || waits}
                  onClick={() => steps.order.mutate({ order: "between", share })}
                >
                  Use this order
                </Button>
              </div>
            )}
          </fieldset>
        ) : (
          <Button look="quiet" className="-ml-3" onClick={() => setShare(EVEN)}>
            Something between
          </Button>
        ))}
    </section>
  );
}

const Says = ({ choice }: { choice: OrderChoice }) => (
  <span className="block text-small text-graphite">{choice.says.join("; ")}</span>
);

type ChoosingProps = { choice: OrderChoice; chosen: boolean; disabled: boolean; onChoose: () => void };

function Choosing({ choice, chosen, disabled, onChoose }: ChoosingProps) {
  return (
    <button
      type="button"
      aria-pressed={chosen}
      disabled={disabled}
      onClick={onChoose}
      className="block w-full py-2 text-left enabled:hover:bg-ochre/25"
    >
      <span className={clsx("block", chosen && "font-bold")}>
        <span aria-hidden="true">{chosen ? "● " : "○ "}</span>
        {choice.name}
      </span>
      <Says choice={choice} />
    </button>
  );
}

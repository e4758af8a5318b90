import clsx from "clsx";
import { useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { useFamilies, useRows } from "@/api/queries";
import { Button } from "@/ui/Button";
import { useClass } from "./school";

const KEPT = "first-loop.first-day";

type Step = "class" | "children" | "letters" | "board" | "row";

/** Begin the first day: the first class is being made, on an empty start. */
export const beginFirstDay = () => localStorage.setItem(KEPT, "[]");

/** The steps that were seen to be done; none while no first day goes on. */
const kept = () => JSON.parse(localStorage.getItem(KEPT) ?? "null") as Step[] | null;

const STEPS: { step: Step; name: string; says: string; go: string }[] = [
  { step: "class", name: "Class", says: "", go: "" },
  {
    step: "children",
    name: "Children",
    says: "First name and initial are enough; a list can be pasted.",
    go: "Add the children",
  },
  {
    step: "letters",
    name: "Your letters",
    says: "Print or joined, with which k, f and q: pick what your school teaches.",
    go: "Pick your letters",
  },
  { step: "board", name: "First letter", says: "The pen shows it move by move.", go: "Show it on the board" },
  { step: "row", name: "First row", says: "A child writes a row on the line.", go: "Start a row" },
];

/** Five steps of a first day, each on its own screen; it can be left at any time and does not come back. */
export function FirstDay() {
  const [day, setDay] = useState(kept);
  if (!day) return null;
  const leave = () => {
    localStorage.removeItem(KEPT);
    setDay(null);
  };
  const see = (step: Step) => {
    const next = [...new Set([...day, step])];
    localStorage.setItem(KEPT, JSON.stringify(next));
    setDay(next);
  };
  return <Steps seen={day} onSee={see} onLeave={leave} />;
}

type StepsProps = { seen: Step[]; onSee: (step: Step) => void; onLeave: () => void };

function Steps({ seen, onSee, onLeave }: StepsProps) {
  const chosen = useClass();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { data: rows } = useRows({ class_id: chosen.id, limit: 1 });
  const { data: families } = useFamilies(chosen.id);
  const letter = families?.families[0]?.members[0]?.drawing.char ?? "l";
  const places: Record<Step, string> = {
    class: "/class",
    children: "/class",
    letters: "/style",
    board: `/board?text=${letter}`,
    row: `/write?letter=${letter}`,
  };
  const done: Record<Step, boolean> = {
    class: true,
    children: chosen.children.length > 0,
    letters: seen.includes("letters"),
    board: seen.includes("board"),
    row: (rows?.length ?? 0) > 0,
  };
  const now = STEPS.find(({ step }) => !done[step]);
  const isHere = now && pathname === places[now.step].split("?")[0];
  const go = () => {
    if (!now) return;
    if (now.step === "board") onSee("board");
    navigate(places[now.step]);
  };
  return (
    <section
      aria-label="First day"
      className="mb-4 flex flex-wrap items-center gap-x-6 gap-y-2 border-b-2 border-ochre pb-3"
    >
      <ol className="flex flex-wrap gap-x-5">
        {STEPS.map(({ step, name }, i) => (
          <li
            key={step}
            aria-current={step === now?.step ? "step" : undefined}
            className={clsx("flex items-baseline gap-1", step === now?.step ? "font-bold" : "text-graphite")}
          >
            <span className="text-small">{i + 1}</span>
            {name}
            {done[step] && <span className="text-small"> done</span>}
          </li>
        ))}
      </ol>
      <p className="min-w-0 text-graphite">
        {now ? now.says : "That was the first day: what was written waits in Check."}
      </p>
      <div className="ml-auto flex gap-2">
        {now?.step === "letters" && isHere && (
          <Button look="strong" onClick={() => onSee("letters")}>
            These are our letters
          </Button>
        )}
        {now && !isHere && (
          <Button look="strong" onClick={go}>
            {now.go}
          </Button>
        )}
        <Button look="quiet" onClick={onLeave}>
          {now ? "Leave the first day" : "Close"}
        </Button>
      </div>
    </section>
  );
}

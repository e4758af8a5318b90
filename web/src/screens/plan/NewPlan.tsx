import { useState } from "react";
import { useNavigate } from "react-router";
import type { PlanDefaults, PlanIn } from "@/api/client";
import { useMakePlan, usePlanDefaults } from "@/api/plan";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { SCHEMES } from "@/screens/families/schemes";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Loaded } from "@/ui/States";
import { type Days, DaysFields } from "./Days";

const ORDERS: { value: PlanIn["order"] & string; words: string }[] = [
  { value: "scheme", words: "As the scheme has it" },
  { value: "movement", words: "Similar movements together" },
  { value: "words", words: "Most words soonest" },
  { value: "apart", words: "Look-alikes furthest apart" },
];
type Topic = PlanDefaults["topics"][number];

/** A term planned from nothing: most of it is filled in already. */
export function NewPlan({ again = false }: { again?: boolean }) {
  const { id, name } = useClass();
  const query = usePlanDefaults(id);
  return (
    <>
      <PageHead title="Plan" sub={`${name} · ${again ? "a term anew" : "no plan yet"}`} />
      <Loaded query={query} what="a beginning">
        {(defaults) => <Form key={id} defaults={defaults} again={again} />}
      </Loaded>
    </>
  );
}

function Form({ defaults, again }: { defaults: PlanDefaults; again: boolean }) {
  const { id } = useClass();
  const make = useMakePlan(id);
  const navigate = useNavigate();
  const { first, last, minutes } = defaults;
  const [days, setDays] = useState<Days>({ name: defaults.name, first, last, minutes, holidays: [] });
  const [topics, setTopics] = useState(defaults.wanted);
  const [known, setKnown] = useState(defaults.topics.flatMap((one) => one.begun));
  const [scheme, setScheme] = useState<NonNullable<PlanIn["scheme"]>>("by-movement");
  const [order, setOrder] = useState<NonNullable<PlanIn["order"]>>("scheme");
  const left = defaults.topics
    .filter((one) => topics.includes(one.key))
    .flatMap((one) => one.items.filter((item) => !known.includes(item)));
  return (
    <form
      className="flex max-w-[900px] flex-1 flex-col gap-6"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutateAsync({ ...days, topics: topics as PlanIn["topics"], known, scheme, order }).then(
          () => navigate("/plan"), // this form is gone as soon as there is a plan
          () => undefined,
        );
      }}
    >
      <p>
        Lessons are dealt out over the term: a few new letters each, others recalled, a lesson in six kept
        free for what comes between. Everything can be changed afterwards.
      </p>
      <DaysFields days={days} onDays={setDays} />
      <fieldset>
        <legend className="text-small text-graphite">To be taught</legend>
        <div className="space-y-2">
          {defaults.topics.map((topic) => (
            <TopicFields
              key={topic.key}
              topic={topic}
              on={topics.includes(topic.key)}
              onTopic={(on) =>
                setTopics(on ? [...topics, topic.key] : topics.filter((one) => one !== topic.key))
              }
              known={known}
              onKnown={setKnown}
            />
          ))}
        </div>
      </fieldset>
      <div className="space-y-1">
        <Choice
          name="Families by"
          shown
          options={SCHEMES.filter((one) => one.value !== "by-sound") as never}
          chosen={scheme}
          onChoose={setScheme}
        />
        <Choice name="Order" shown options={ORDERS} chosen={order} onChoose={setOrder} />
        <p className="text-small text-graphite">
          What each order costs is told beside the term, where another can be chosen.
        </p>
      </div>
      {make.error && (
        <p role="alert" className="text-brick">
          {make.error.message}
        </p>
      )}
      <div className="mt-auto flex items-center justify-end gap-4 pt-2">
        <p role="status" className="text-graphite">
          {make.isPending
            ? "Looking for the best order…"
            : left.length === 1
              ? "1 thing to teach"
              : `${left.length} things to teach`}
        </p>
        {again && <LinkButton to="/plan">Keep the plan there is</LinkButton>}
        <Button type="submit" look="strong" big disabled={!left.length || make.isPending}>
          Plan the term
        </Button>
      </div>
    </form>
  );
}

type TopicProps = {
  topic: Topic;
  on: boolean;
  onTopic: (on: boolean) => void;
  known: string[];
  onKnown: (known: string[]) => void;
};

/** A topic and what of it was taught before: struck out, and pressed to take it in again. */
function TopicFields({ topic, on, onTopic, known, onKnown }: TopicProps) {
  return (
    <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
      <label className="flex w-36 items-center gap-2 py-1">
        <input
          type="checkbox"
          checked={on}
          onChange={(event) => onTopic(event.target.checked)}
          className="size-5 accent-ink"
        />
        {topic.name}
      </label>
      {on && (
        <div className="flex max-w-[640px] flex-wrap items-center gap-1">
          {topic.items.map((item, i) => {
            const taught = known.includes(item);
            return (
              <button
                key={item}
                type="button"
                aria-pressed={taught}
                aria-label={`${topic.names[i]}, taught before`}
                onClick={() => onKnown(taught ? known.filter((one) => one !== item) : [...known, item])}
                className={
                  taught
                    ? "min-w-8 rounded-sm px-2 py-1 text-graphite line-through"
                    : "min-w-8 rounded-sm border border-pale bg-sheet px-2 py-1"
                }
              >
                {topic.names[i]}
              </button>
            );
          })}
          <span className="text-small text-graphite">press what was taught before</span>
        </div>
      )}
    </div>
  );
}

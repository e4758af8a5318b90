import { Link, useParams } from "react-router";
import type { Story } from "@/api/client";
import { useUnitsOf } from "@/api/dictations";
import { useStory } from "@/api/overtime";
import { sheetAddress } from "@/screens/sheets/address";
import { LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { ChildHead } from "./ChildHead";
import { FirstLatest } from "./FirstLatest";
import { HeadingCharts, Measures } from "./HeadingCharts";
import { LatestWords } from "./LatestWords";
import { Notes } from "./Notes";
import { Sounds } from "./Sounds";

/** The story of one child, told from the child's own past alone. */
export function StoryScreen() {
  const query = useStory(Number(useParams().childId));
  return (
    <Loaded query={query} what="the child">
      {(story) => {
        const written = story.letters.filter((one) => one.state !== "not-started");
        return (
          <>
            <ChildHead child={story.child} letters={written} />
            {written.length ? (
              <>
                <div className="grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-x-10 gap-y-6 max-[900px]:grid-cols-1">
                  <div className="space-y-6">
                    <NextSteps story={story} />
                    <Habits story={story} />
                    <WatchFor story={story} />
                    <Picks story={story} />
                  </div>
                  <HeadingCharts story={story} />
                </div>
                <FirstLatest story={story} />
                <Sounds child={story.child} />
                <LatestWords child={story.child} />
                <div className="mt-6 grid grid-cols-[minmax(0,7fr)_minmax(0,5fr)] gap-x-10 gap-y-6 max-[900px]:grid-cols-1">
                  <Measures story={story} />
                  <Notes story={story} />
                </div>
              </>
            ) : (
              <>
                <Empty title={`${story.child.first_name} has not written a row yet`}>
                  <LinkButton to={`/write?child=${story.child.id}`}>Start a row</LinkButton>
                </Empty>
                <LatestWords child={story.child} />
                <Notes story={story} />
              </>
            )}
          </>
        );
      }}
    </Loaded>
  );
}

/** At most three things to do, each a click away. */
function NextSteps({ story }: { story: Story }) {
  const sounds = useUnitsOf(story.child.id).data?.next_steps ?? [];
  return (
    <section aria-label="Next steps" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">Next for {story.child.first_name}</h2>
      {story.next_steps.length + sounds.length > 0 ? (
        <ol className="mt-1 list-decimal space-y-1 pl-5">
          {story.next_steps.map((step) => (
            <li key={step.words}>
              {step.words}{" "}
              <Link
                to={
                  step.kind === "teach"
                    ? `/board?text=${[...step.letters].join(" ")}`
                    : `/write?child=${story.child.id}&letter=${step.letters[0]}`
                }
                className="whitespace-nowrap underline decoration-pale underline-offset-4 hover:decoration-ink"
              >
                {step.kind === "teach" ? "On the board" : `Write ${step.letters[0]}`}
              </Link>
            </li>
          ))}
          <li>
            <Link
              to={sheetAddress({ child: story.child.id })}
              className="whitespace-nowrap underline decoration-pale underline-offset-4 hover:decoration-ink"
            >
              Sheet for this
            </Link>
          </li>
          {sounds.map((step) => (
            <li key={step}>
              {step}{" "}
              <Link
                to={`/words/dictation?child_id=${story.child.id}`}
                className="whitespace-nowrap underline decoration-pale underline-offset-4 hover:decoration-ink"
              >
                Make a dictation
              </Link>
            </li>
          ))}
        </ol>
      ) : (
        <p className="mt-1 text-graphite">Nothing stands out; go on with the next letters.</p>
      )}
    </section>
  );
}

const COURSES = {
  gone: "gone",
  less: "less often",
  steady: "goes on",
  more: "more often",
  new: "new",
} as const;

/** Slips made often, and what became of each. */
function Habits({ story }: { story: Story }) {
  return (
    <section aria-label="Slips over time" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">What became of slips</h2>
      {story.habits.length ? (
        <ul className="mt-1 space-y-1">
          {story.habits.map((habit) => (
            <li key={habit.code} className="grid grid-cols-[88px_1fr] gap-x-2">
              <span className={habit.course === "gone" || habit.course === "less" ? "" : "text-brick"}>
                {COURSES[habit.course]}
              </span>
              <span>{habit.words}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="mt-1 text-graphite">No slip was made often enough to be called a habit.</p>
      )}
    </section>
  );
}

/** What was seen of letters of which too little is written to claim anything. */
function WatchFor({ story }: { story: Story }) {
  if (!story.watch_for.length) return null;
  return (
    <section aria-label="Watch for" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">Seen once or twice</h2>
      <ul className="mt-1 space-y-1">
        {story.watch_for.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </section>
  );
}

function Picks({ story }: { story: Story }) {
  const { same, rows } = story.picks;
  if (!rows) return null;
  return (
    <p className="border-t border-hair pt-2">
      <span className="text-graphite">Own best picks: </span>
      in {same} of the last {rows} rows {story.child.first_name} chose the letter that the checker liked best.
    </p>
  );
}

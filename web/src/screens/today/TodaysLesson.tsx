import { Link } from "react-router";
import type { LessonToday } from "@/api/client";
import { useLessonToday } from "@/api/plan";
import { dayFormat } from "@/app/days";
import { useClass } from "@/app/school";
import { SideBySide } from "@/line/SideBySide";
import { WasItShown } from "@/screens/plan/WasItShown";
import { LinkButton } from "@/ui/Button";

const longDay = dayFormat({ weekday: "long", day: "numeric", month: "long" });

/** Today's lesson and what came of the latest one; nothing for a class without a plan. */
export function TodaysLesson() {
  const { id } = useClass();
  const query = useLessonToday(id);
  if (!query.data) return null;
  return <Lesson lesson={query.data} />;
}

function Lesson({ lesson }: { lesson: LessonToday }) {
  const { today, came, to_tell, next_key, next_day } = lesson;
  if (!today && !came && !to_tell.length && next_key === null) return null;
  return (
    <section
      aria-label="Today's lesson"
      className="mb-6 grid grid-cols-[minmax(0,7fr)_minmax(0,5fr)] gap-x-12 gap-y-4 max-[900px]:grid-cols-1"
    >
      <div className="border-t-2 border-ink pt-2">
        <h2 className="font-bold">Today's lesson</h2>
        {today ? (
          <>
            <p className="text-large">{today.aim}</p>
            {today.show.length > 0 && (
              <SideBySide
                least={1400}
                label={`New: ${today.show.map(({ item }) => item.name).join(", ")}`}
                className="mt-1 block max-h-[120px] w-full"
              >
                {today.show.map(({ item }) => item.drawing)}
              </SideBySide>
            )}
            <p className="text-small text-graphite">
              {today.parts.map((part) => `${part.title} ${part.minutes} min`).join(" · ")}
            </p>
            <div className="mt-2 flex flex-wrap gap-2">
              {today.run?.finished_at || today.shown ? (
                <LinkButton to={`/plan/lesson/${today.key}`}>What was done</LinkButton>
              ) : (
                <>
                  <LinkButton look="strong" to={`/plan/lesson/${today.key}/run`}>
                    {today.run ? "Go on with the lesson" : "Run the lesson"}
                  </LinkButton>
                  <LinkButton to={`/plan/lesson/${today.key}`}>Look at it first</LinkButton>
                </>
              )}
            </div>
          </>
        ) : (
          <p className="text-graphite">
            No lesson today.
            {next_key !== null && next_day && (
              <>
                {" "}
                <Link
                  className="text-ink underline decoration-pale underline-offset-4 hover:decoration-ink"
                  to={`/plan/lesson/${next_key}`}
                >
                  The next is on {longDay(next_day)}
                </Link>
                .
              </>
            )}
          </p>
        )}
      </div>
      <div className="space-y-4">
        {came && (
          <div className="border-t-2 border-ink pt-2">
            <h2 className="font-bold">
              What came of it{" "}
              <Link
                className="text-small font-normal text-graphite hover:text-ink"
                to={`/plan/lesson/${came.key}`}
              >
                {longDay(came.day)}, {came.title.toLowerCase()}
              </Link>
            </h2>
            <ul>
              {came.says.map((one) => (
                <li key={one}>{one}</li>
              ))}
              {!came.says.length && <li className="text-graphite">Nothing of it has been written here.</li>}
            </ul>
          </div>
        )}
        <WasItShown asked={to_tell.slice(0, 1)} />
      </div>
    </section>
  );
}

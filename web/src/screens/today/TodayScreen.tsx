import { Link } from "react-router";
import type { Today } from "@/api/client";
import { useToday } from "@/api/overtime";
import { dayFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { DROP, Strip } from "@/line/Strip";
import { LinkButton } from "@/ui/Button";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { Empty, Loaded } from "@/ui/States";
import { Groups } from "./Groups";
import { TodaysLesson } from "./TodaysLesson";

const day = dayFormat({ day: "numeric", month: "long" });

/** The few decisions of the day, each one click from being done. */
export function TodayScreen() {
  const chosen = useClass();
  const query = useToday(chosen.id);
  if (!chosen.children.length) {
    return (
      <>
        <PageHead title="Today" sub={chosen.name} />
        <TodaysLesson />
        <Empty title="No children yet">
          <LinkButton to="/class">Add the first child</LinkButton>
        </Empty>
      </>
    );
  }
  return (
    <>
      <PageHead title="Today" sub={chosen.name} />
      <Loaded query={query} what="today">
        {(today) => (
          <>
            <TodaysLesson />
            <RecallRow today={today} />
            <div className="mt-6 grid flex-1 grid-cols-[minmax(0,7fr)_minmax(0,5fr)] gap-x-12 gap-y-6 max-[900px]:grid-cols-1">
              <Groups today={today} />
              <div className="space-y-6">
                <Waiting today={today} />
                <Slips
                  name="New slips"
                  sub="taken to in the last two weeks, hardly made before"
                  slips={today.new_slips}
                />
                <Slips
                  name="Watch for"
                  sub="seen, and too little written yet to say more"
                  slips={today.watch_for}
                />
                <Changes today={today} />
                <NotSince today={today} />
              </div>
            </div>
          </>
        )}
      </Loaded>
    </>
  );
}

const CELL = 376;

const due = ({ children, due_since }: Today["recall"][number]) =>
  `${children === 1 ? "1 child" : `${children} children`}, since ${day(due_since)}`;

/** The letters to write again today, on the line, the most due first. */
function RecallRow({ today }: { today: Today }) {
  if (!today.recall.length) {
    return (
      <Empty title="No letter is due to be recalled">
        Letters come back here some days after they were last written alone.
      </Empty>
    );
  }
  return (
    <section aria-label="Recall row">
      <div className="flex items-baseline gap-4">
        <h2 className="font-bold">Recall today</h2>
        <p className="text-small text-graphite">the most due first, each from another family</p>
      </div>
      <Strip
        width={CELL * 5}
        below={104}
        above={16}
        label={`Recall row: ${today.recall.map((one) => one.letter).join(", ")}`}
        className="mt-1 block max-h-[236px] w-full"
        role="group"
      >
        {today.recall.map((one, i) => (
          <Link
            key={one.letter}
            to={`/write?letter=${one.letter}`}
            aria-label={`Write a row of ${one.letter}: ${one.family} ${due(one)}`}
          >
            <rect x={i * CELL} y={-216} width={CELL} height={420} fill="transparent" />
            <Glyph letter={one.drawing} x={centred(one.drawing, CELL * (i + 0.5))} weight={11} />
            <text
              x={CELL * (i + 0.5)}
              y={DROP + 40}
              fontSize={23}
              textAnchor="middle"
              fill="var(--color-ink)"
            >
              {one.family}
            </text>{" "}
            <text
              x={CELL * (i + 0.5)}
              y={DROP + 76}
              fontSize={23}
              textAnchor="middle"
              fill="var(--color-graphite)"
            >
              {due(one)}
            </text>
          </Link>
        ))}
      </Strip>
      <div className="mt-2 flex gap-2">
        <LinkButton to={`/board?text=${today.recall.map((one) => one.letter).join(" ")}`}>
          Show them on the board
        </LinkButton>
        <LinkButton to={`/write?letter=${today.recall[0]?.letter}`} look="quiet">
          Write a row of {today.recall[0]?.letter ?? ""}
        </LinkButton>
      </div>
    </section>
  );
}

function Waiting({ today }: { today: Today }) {
  const { rows, children, words, pages } = today.waiting;
  return (
    <section aria-label="Waiting to be checked" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">Waiting to be checked</h2>
      {rows ? (
        <div className="mt-1 flex items-center gap-4">
          <p>
            {rows === 1 ? "1 row" : `${rows} rows`} by {children === 1 ? "1 child" : `${children} children`}
          </p>
          <LinkButton to="/check">Check them</LinkButton>
        </div>
      ) : (
        <p className="mt-1 text-graphite">Every row has your marks.</p>
      )}
      {words > 0 && (
        <div className="mt-1 flex items-center gap-4">
          <p>{words === 1 ? "1 word or line" : `${words} words and lines`}</p>
          <LinkButton to="/check?at=words">Look at them</LinkButton>
        </div>
      )}
      {pages > 0 && (
        <div className="mt-1 flex items-center gap-4">
          <p>{pages === 1 ? "1 page that came back" : `${pages} pages that came back`}</p>
          <LinkButton to="/check/pages">See them</LinkButton>
        </div>
      )}
    </section>
  );
}

type SlipsProps = { name: string; sub: string; slips: Today["new_slips"] };

/** Slips with the children who made them; nothing where there are none. */
function Slips({ name, sub, slips }: SlipsProps) {
  if (!slips.length) return null;
  return (
    <section aria-label={name} className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">
        {name} <span className="text-small font-normal text-graphite">{sub}</span>
      </h2>
      <ul className="mt-1 space-y-1">
        {slips.map((slip) => (
          <li key={`${slip.code} ${slip.letters}`}>
            {slip.words}:{" "}
            {slip.children.map((child, i) => (
              <span key={child.id}>
                {i > 0 && ", "}
                <Link
                  to={`/children/${child.id}/${slip.letters[0]}`}
                  className="underline decoration-pale underline-offset-4 hover:decoration-ink"
                >
                  {child.name}
                </Link>
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Changes({ today }: { today: Today }) {
  return (
    <section aria-label="Since last week" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">Since last week</h2>
      {today.changes.length ? (
        <ul className="mt-1">
          {today.changes.map(({ child, letter, what }) => (
            <li key={`${child.id} ${letter}`}>
              <Link
                to={`/children/${child.id}/${letter}`}
                className="flex items-center gap-2 py-[2px] hover:underline"
              >
                <StateMark state={what} />
                {child.name}: {letter} {what === "secure" ? "has become" : "is"} {STATE_WORDS[what]}
              </Link>
            </li>
          ))}
          {today.more_changes > 0 && (
            <li className="text-graphite">and {today.more_changes} more, on the class map</li>
          )}
        </ul>
      ) : (
        <p className="mt-1 text-graphite">No letter became secure or slipped.</p>
      )}
    </section>
  );
}

const NAMES = 6;

/** Letters that were taught and that some children have not written alone. */
function NotSince({ today }: { today: Today }) {
  if (!today.not_since.length) return null;
  return (
    <section aria-label="Not yet alone" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">Taught, not yet written alone</h2>
      <ul className="mt-1">
        {today.not_since.map((one) => {
          const [first] = one.children;
          const names = one.children.slice(0, NAMES).map((child) => child.first_name);
          const rest = one.children.length - names.length;
          return (
            <li key={one.letter}>
              <Link
                to={`/write?child=${first?.id}&letter=${one.letter}`}
                className="py-[2px] hover:underline"
              >
                <b>{one.letter}</b>
                <span className="text-graphite"> since {day(one.taught)}: </span>
                {names.join(", ")}
                {rest > 0 && ` and ${rest} more`}
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

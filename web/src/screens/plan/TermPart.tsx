import clsx from "clsx";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import type { Plan, PlanItem, PlannedLesson, PlanWeek } from "@/api/client";
import { usePlanSteps } from "@/api/plan";
import { dayFormat, schoolDay } from "@/app/days";
import { useClass } from "@/app/school";
import { Glyph, widthOf } from "@/line/Letter";
import { LinePiece, TALL, TOP } from "@/screens/words/OnLine";
import { type Carrying, useCarrying } from "@/ui/useCarrying";
import { LessonDialog } from "./LessonDialog";
import { Orders } from "./Orders";
import { ToldAndMoved } from "./ToldAndMoved";
import { WordsByWeek } from "./WordsByWeek";

const LINE_PX = 44;
const A_UNIT_PX = LINE_PX / TALL;

const short = dayFormat({ day: "numeric", month: "short" });
const weekday = dayFormat({ weekday: "long" });
const dayOfMonth = dayFormat({ day: "numeric" });
const longDay = dayFormat({ weekday: "long", day: "numeric", month: "long" });

const RECALLED = 7; // letters of a week's recall that there is room for
const LESSON = "lesson "; // before the key of a lesson that is carried whole

/** The term on the line, week by week, with the orders to choose from beside it. */
export function TermPart({ plan }: { plan: Plan }) {
  const { id } = useClass();
  const steps = usePlanSteps(id);
  const [opened, setOpened] = useState<number | null>(null);
  const focusOn = useRef<string | null>(null);
  const lessons = useMemo(() => plan.weeks.flatMap((week) => week.lessons), [plan]);
  const items = useMemo(() => new Map(plan.items.map((item) => [item.text, item])), [plan]);
  const carrying = useCarrying((carried, onto) => {
    const to = Number(onto);
    if (carried.startsWith(LESSON)) steps.move.mutate({ key: Number(carried.slice(LESSON.length)), to });
    else steps.letter.mutate({ letter: carried, lesson: to });
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was moved by keys keeps the focus when the plan has changed
  useEffect(() => {
    if (focusOn.current) document.querySelector<HTMLElement>(focusOn.current)?.focus();
    focusOn.current = null;
  }, [plan]);
  /** The lesson so many steps before or after one that may be changed. */
  const beside = (key: number, by: number) => {
    const open = lessons.filter((one) => one.can_change);
    return open[open.findIndex((one) => one.key === key) + by];
  };
  const stepLetter = (letter: string, key: number, by: number) => {
    const to = beside(key, by);
    if (!to) return;
    focusOn.current = `[data-letter="${CSS.escape(letter)}"]`;
    steps.letter.mutate({ letter, lesson: to.key });
  };
  const stepLesson = (key: number, by: number) => {
    const to = beside(key, by);
    if (!to) return;
    focusOn.current = `[data-handle="${to.key}"]`;
    steps.move.mutate({ key, to: to.key });
  };
  const error = [steps.letter, steps.move, steps.lock, steps.tell, steps.order].find(
    (one) => one.error,
  )?.error;
  const columns = [...new Set(lessons.map((one) => new Date(one.day).getUTCDay()))].sort();
  const now = schoolDay();
  const shown = lessons.find((one) => one.key === opened);
  return (
    <div className="grid flex-1 grid-cols-[minmax(0,1fr)_256px] gap-10 max-[1100px]:grid-cols-1">
      <section aria-label="The term, week by week">
        {error && (
          <p role="alert" className="mb-2 text-brick">
            {error.message}
          </p>
        )}
        <Head columns={columns} lessons={lessons} />
        <ol>
          {plan.weeks.map((week, i) => {
            const next = plan.weeks[i + 1]?.monday;
            const present = week.monday <= now && (next === undefined || now < next);
            return (
              <Week
                key={week.monday}
                week={week}
                columns={columns}
                present={present}
                items={items}
                carrying={carrying}
                onOpen={setOpened}
                onLetter={stepLetter}
                onLesson={stepLesson}
              />
            );
          })}
        </ol>
        {plan.left_says && <p className="mt-3 text-brick">{plan.left_says}</p>}
        <p className="mt-3 text-small text-graphite">
          Drag a letter to another lesson, or a whole lesson by its day; or use ← → on it. Press a day for the
          lesson, to lock it, or to say what happened.
        </p>
      </section>
      <aside className="space-y-5">
        <ToldAndMoved plan={plan} />
        <Orders plan={plan} />
        <WordsByWeek weeks={plan.weeks} />
      </aside>
      {carrying.carried && <Carried carried={carrying.carried} items={items} />}
      {shown && <LessonDialog lesson={shown} onClose={() => setOpened(null)} />}
    </div>
  );
}

const grid = (columns: number) => ({
  gridTemplateColumns: `64px repeat(${columns}, minmax(0, 1fr)) minmax(112px, 22%)`,
});

function Head({ columns, lessons }: { columns: number[]; lessons: PlannedLesson[] }) {
  const nameOf = (column: number) => {
    const one = lessons.find((lesson) => new Date(lesson.day).getUTCDay() === column);
    return one ? weekday(one.day) : "";
  };
  return (
    <div className="grid text-small text-graphite" style={grid(columns.length)}>
      <span />
      {columns.map((column) => (
        <span key={column}>{nameOf(column)}</span>
      ))}
      <span>recall</span>
    </div>
  );
}

type WeekProps = {
  week: PlanWeek;
  columns: number[];
  present: boolean;
  items: Map<string, PlanItem>;
  carrying: Carrying;
  onOpen: (key: number) => void;
  onLetter: (letter: string, key: number, by: number) => void;
  onLesson: (key: number, by: number) => void;
};

function Week({ week, columns, present, items, ...moves }: WeekProps) {
  const recalled = [...new Set(week.lessons.flatMap((one) => one.recall))];
  return (
    <li
      aria-label={`Week of ${short(week.monday)}`}
      aria-current={present ? "date" : undefined}
      className={clsx("grid items-center rounded-sm", present && "outline outline-ink")}
      style={grid(columns.length)}
    >
      <span className={clsx("pl-1 text-small", present ? "font-bold" : "text-graphite")}>
        {short(week.monday)}
      </span>
      {week.lessons.length === 0 ? (
        <span className="col-span-full col-start-2 py-3 text-small text-graphite">
          {week.holiday || "no lesson"}
        </span>
      ) : (
        <>
          {columns.map((column) => {
            const lesson = week.lessons.find((one) => new Date(one.day).getUTCDay() === column);
            return lesson ? (
              <LessonCell key={lesson.key} lesson={lesson} items={items} {...moves} />
            ) : (
              <OnLine key={`none ${column}`} />
            );
          })}
          <OnLine>
            <span className="sr-only">recall {recalled.join(" ") || "nothing"}</span>
            <Letters texts={recalled.slice(0, RECALLED)} items={items} colour="var(--color-mid)" />
            {recalled.length > RECALLED && <span aria-hidden="true">…</span>}
          </OnLine>
        </>
      )}
    </li>
  );
}

/** A piece of the ruled line with something standing on it. */
function OnLine({ children, className }: { children?: ReactNode; className?: string }) {
  return (
    <div
      className={clsx("relative flex items-center overflow-hidden", className)}
      style={{ height: LINE_PX }}
    >
      <LinePiece height={LINE_PX} className="absolute inset-0" />
      <div className="relative flex items-center">{children}</div>
    </div>
  );
}

const SIDE = 34;

/** A letter, or an example of a join, as tall as the line. */
function Drawn({ item, colour }: { item: PlanItem; colour?: string }) {
  const width = widthOf(item.drawing) + 2 * SIDE;
  return (
    <svg
      aria-hidden="true"
      height={LINE_PX}
      width={width * A_UNIT_PX}
      viewBox={`0 ${TOP} ${width} ${TALL}`}
      className="block"
    >
      <Glyph
        letter={item.drawing}
        x={SIDE - (item.drawing.bounds[0] ?? 0)}
        weight={14}
        {...(colour && { colour })}
      />
    </svg>
  );
}

type LettersProps = { texts: string[]; items: Map<string, PlanItem>; colour?: string };

const Letters = ({ texts, items, colour }: LettersProps) =>
  texts.map((text) => {
    const item = items.get(text);
    return item ? <Drawn key={text} item={item} {...(colour && { colour })} /> : null;
  });

type CellProps = Omit<WeekProps, "week" | "columns" | "present"> & { lesson: PlannedLesson };

/** What stands for a lesson that has no letters. */
const instead = (lesson: PlannedLesson) =>
  lesson.came === "missed" ? "missed" : lesson.new.length ? "" : lesson.title.toLowerCase();

function LessonCell({ lesson, items, carrying, onOpen, onLetter, onLesson }: CellProps) {
  const { carried, over, pick } = carrying;
  const key = String(lesson.key);
  const texts = lesson.shown ?? lesson.new;
  const words = lesson.came === "missed" || !texts.length ? instead(lesson) : "";
  const about = [
    longDay(lesson.day),
    lesson.title,
    lesson.locked && "locked",
    lesson.came === "cut" && "cut short",
    lesson.came === "missed" && "missed",
  ];
  return (
    <div
      {...(lesson.can_change && { "data-family": key })}
      className={clsx(
        "rounded-sm",
        over === key && carried && "bg-ochre/50",
        lesson.locked && "outline-2 -outline-offset-2 outline-line outline-dotted",
      )}
    >
      <OnLine>
        <button
          type="button"
          data-handle={key}
          aria-label={about.filter(Boolean).join(", ")}
          onClick={() => onOpen(lesson.key)}
          onPointerDown={(event) => {
            if (lesson.can_change && lesson.new.length) pick(LESSON + key, key, event);
          }}
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
            if (!by || !lesson.can_change || !lesson.new.length) return;
            event.preventDefault();
            event.stopPropagation();
            onLesson(lesson.key, by);
          }}
          className="h-11 w-7 shrink-0 touch-none rounded-sm text-left text-small text-graphite tabular-nums hover:bg-ochre/30"
        >
          {dayOfMonth(lesson.day)}
        </button>
        {words ? (
          <span className="text-small whitespace-nowrap text-graphite">{words}</span>
        ) : (
          texts.map((text) => {
            const item = items.get(text);
            if (!item) return null;
            if (!lesson.can_change) return <Drawn key={text} item={item} />;
            return (
              <button
                key={text}
                type="button"
                data-letter={text}
                aria-label={`${item.name}, ${longDay(lesson.day)}`}
                onPointerDown={(event) => pick(text, key, event)}
                onKeyDown={(event) => {
                  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
                  if (!by) return;
                  event.preventDefault();
                  event.stopPropagation();
                  onLetter(text, lesson.key, by);
                }}
                className={clsx(
                  "min-w-7 shrink-0 cursor-grab touch-none rounded-sm hover:bg-ochre/40",
                  carried?.letter === text && "opacity-30",
                )}
              >
                <Drawn item={item} />
              </button>
            );
          })
        )}
        {!lesson.can_change && <span className="sr-only">{texts.join(" ")}</span>}
        {lesson.came === "cut" && (
          <span className="ml-2 text-small text-brick" aria-hidden="true">
            cut short
          </span>
        )}
      </OnLine>
    </div>
  );
}

function Carried({
  carried,
  items,
}: {
  carried: NonNullable<Carrying["carried"]>;
  items: Map<string, PlanItem>;
}) {
  const item = items.get(carried.letter);
  return (
    <div
      aria-hidden="true"
      className="pointer-events-none fixed z-10 rounded-sm bg-ochre/60 px-1"
      style={{ left: carried.x + 8, top: carried.y - LINE_PX / 2 }}
    >
      {item ? <Drawn item={item} /> : <span className="px-2 text-small">this lesson</span>}
    </div>
  );
}

import { useRef, useState } from "react";
import type { HolidayIn, TermIn } from "@/api/client";
import { readHolidays } from "@/api/plan";
import { dayFormat } from "@/app/days";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";

export type Days = Required<TermIn>;

const NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const USUAL_MINUTES = 15;
export const FIELD = "h-10 border-b-2 border-line bg-band px-2";
const short = dayFormat({ day: "numeric", month: "long" });

type Props = { days: Days; onDays: (days: Days) => void };

/** First and last day of a term, the days of the week with a lesson, and holidays. */
export function DaysFields({ days, onDays }: Props) {
  const set = (changed: Partial<Days>) => onDays({ ...days, ...changed });
  return (
    <div className="space-y-5">
      <div className="flex flex-wrap items-end gap-4">
        <label className="w-56">
          <span className="block text-small text-graphite">Name of the term</span>
          <input
            required
            maxLength={60}
            value={days.name}
            onChange={(event) => set({ name: event.target.value })}
            className={`${FIELD} w-full`}
          />
        </label>
        <DayField name="First day" value={days.first} onDay={(first) => set({ first })} />
        <DayField name="Last day" value={days.last} onDay={(last) => set({ last })} />
      </div>
      <fieldset>
        <legend className="text-small text-graphite">Lessons, and how many minutes they have</legend>
        <div className="mt-1 flex flex-wrap gap-x-5 gap-y-2">
          {NAMES.map((name, i) => (
            <LessonDay
              key={name}
              name={name}
              minutes={days.minutes[i] ?? 0}
              onMinutes={(minutes) =>
                set({ minutes: days.minutes.map((old, j) => (i === j ? minutes : old)) })
              }
            />
          ))}
        </div>
      </fieldset>
      <Holidays days={days} onHolidays={(holidays) => set({ holidays })} />
    </div>
  );
}

type DayProps = { name: string; value: string; onDay: (day: string) => void };

const DayField = ({ name, value, onDay }: DayProps) => (
  <label>
    <span className="block text-small text-graphite">{name}</span>
    <input
      required
      type="date"
      value={value}
      onChange={(event) => onDay(event.target.value)}
      className={FIELD}
    />
  </label>
);

type LessonDayProps = { name: string; minutes: number; onMinutes: (minutes: number) => void };

function LessonDay({ name, minutes, onMinutes }: LessonDayProps) {
  return (
    <span className="flex items-center gap-2">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={minutes > 0}
          onChange={(event) => onMinutes(event.target.checked ? USUAL_MINUTES : 0)}
          className="size-5 accent-ink"
        />
        {name}
      </label>
      {minutes > 0 && (
        <input
          type="number"
          aria-label={`Minutes on ${name}`}
          min={5}
          max={90}
          value={minutes}
          onChange={(event) => onMinutes(Math.max(1, Math.min(90, Number(event.target.value) || 1)))}
          className={`${FIELD} w-16`}
        />
      )}
    </span>
  );
}

type HolidaysProps = { days: Days; onHolidays: (holidays: HolidayIn[]) => void };

/** Holidays, typed or read from a calendar file. */
function Holidays({ days, onHolidays }: HolidaysProps) {
  const { id } = useClass();
  const file = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<string | null>(null);
  const { holidays } = days;
  const change = (at: number, changed: Partial<HolidayIn>) =>
    onHolidays(holidays.map((one, i) => (i === at ? { ...one, ...changed } : one)));
  const read = async (chosen: File) => {
    try {
      const found = await readHolidays(id, chosen, days.first, days.last);
      const known = new Set(holidays.map((one) => `${one.first} ${one.last}`));
      const fresh = found.filter((one) => !known.has(`${one.first} ${one.last}`));
      onHolidays([...holidays, ...fresh]);
      setSaid(
        fresh.length
          ? `Read from ${chosen.name}: ${fresh.map((one) => one.name || short(one.first)).join(", ")}. Take out what is no holiday.`
          : `No new whole days off between these dates in ${chosen.name}.`,
      );
    } catch (problem) {
      setSaid((problem as Error).message);
    }
  };
  return (
    <fieldset>
      <legend className="text-small text-graphite">Holidays and days off</legend>
      <ul className="mt-1 space-y-2">
        {holidays.map((one, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a holiday that is being typed has no name of its own
          <li key={i} className="flex flex-wrap items-end gap-3">
            <DayField
              name="From"
              value={one.first}
              onDay={(first) => change(i, { first, last: one.last < first ? first : one.last })}
            />
            <DayField name="To" value={one.last} onDay={(last) => change(i, { last })} />
            <label>
              <span className="block text-small text-graphite">Called</span>
              <input
                maxLength={80}
                value={one.name ?? ""}
                onChange={(event) => change(i, { name: event.target.value })}
                className={`${FIELD} w-52`}
              />
            </label>
            <Button
              look="quiet"
              aria-label={`Take out ${one.name || short(one.first)}`}
              onClick={() => onHolidays(holidays.filter((_, j) => j !== i))}
            >
              Take out
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button onClick={() => onHolidays([...holidays, { first: days.first, last: days.first, name: "" }])}>
          Add a holiday
        </Button>
        <Button onClick={() => file.current?.click()}>Read from a calendar file</Button>
        <input
          ref={file}
          type="file"
          accept=".ics,text/calendar"
          aria-label="Calendar file with holidays"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            event.target.value = "";
            if (chosen) void read(chosen);
          }}
        />
        {said && (
          <p role="status" className="text-small text-graphite">
            {said}
          </p>
        )}
      </div>
    </fieldset>
  );
}

import type { Child } from "@/api/client";
import { useUnitsOf } from "@/api/dictations";
import { dayFormat } from "@/app/days";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { BoxesMarked } from "../dictation/Boxes";

const short = dayFormat({ day: "numeric", month: "short" });

/** A child's sounds by what was dictated; nothing where nothing was. */
export function Sounds({ child }: { child: Child }) {
  const { data } = useUnitsOf(child.id);
  if (!data?.units.length) return null;
  return (
    <section aria-label="Sounds" className="mt-6">
      <h2 className="border-t-2 border-ink pt-2 font-bold">
        Sounds <span className="text-small font-normal text-graphite">by what was dictated</span>
      </h2>
      <ul className="flex flex-wrap gap-x-5 gap-y-1">
        {data.units.map((one) => (
          <li key={one.unit} title={one.why} className="flex items-center gap-1">
            <b>{one.unit}</b>
            <StateMark state={one.state} />
            <span className="text-small text-graphite">
              <span className="sr-only">{STATE_WORDS[one.state]}, </span>
              {one.credit}
              {one.state === "secure" && one.since && ` · since ${short(one.since)}`}
            </span>
          </li>
        ))}
      </ul>
      {data.came_right.map((said) => (
        <p key={said} className="mt-2">
          {said}
        </p>
      ))}
      <h3 className="mt-3 text-small text-graphite">Latest words</h3>
      <ul className="flex flex-wrap gap-x-8 gap-y-2">
        {data.words.map((word, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the same word can come twice on a day
          <li key={`${word.day} ${word.text} ${i}`} className="flex items-center gap-3">
            <BoxesMarked units={word.units} tries={word.tries} />
            <span className="text-small text-graphite">{short(word.day)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

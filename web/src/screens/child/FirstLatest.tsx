import { Link } from "react-router";
import type { LetterStory, Story } from "@/api/client";
import { dayFormat } from "@/app/days";
import { centred, Glyph, INK } from "@/line/Letter";
import { Lines, RISE, XH } from "@/line/Strip";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";

type Written = NonNullable<LetterStory["first"]>;

const day = dayFormat({ day: "numeric", month: "short" });
const CELL = 170;

const asDrawing = (one: Written, char: string) => ({ char, paths: one.paths, bounds: one.bounds });

/** The first and the latest of every letter side by side, all at one scale. */
export function FirstLatest({ story }: { story: Story }) {
  const written = story.letters.filter((one) => one.first);
  return (
    <section aria-label="First and latest" className="mt-6 border-t-2 border-ink pt-2">
      <h2 className="font-bold">
        First and latest{" "}
        <span className="text-small font-normal text-graphite">
          as {story.child.first_name} wrote them alone, all at one scale
        </span>
      </h2>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(156px,1fr))] gap-x-3 gap-y-2">
        {written.map((one) => (
          <li key={one.letter}>
            <Pair story={story} one={one} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Pair({ story, one }: { story: Story; one: LetterStory }) {
  const shown = [one.first, one.latest].filter((ink) => ink !== null);
  return (
    <Link
      to={`/children/${story.child.id}/${one.letter}`}
      title={one.why}
      className="block rounded-sm hover:bg-ochre/30"
    >
      <svg viewBox={`0 ${RISE - 12} ${CELL * 2} ${3 * XH + 24}`} className="block w-full" aria-hidden="true">
        <Lines from={0} to={CELL * 2} />
        {shown.map((ink, i) => (
          <Glyph
            key={`${ink.row_id} ${ink.position}`}
            letter={asDrawing(ink, one.letter)}
            x={centred(asDrawing(ink, one.letter), CELL * (i + 0.5))}
            colour={INK}
            weight={6}
          />
        ))}
      </svg>
      <p className="flex items-center gap-1 px-1 text-small text-graphite">
        <b className="text-body text-ink">{one.letter}</b>
        <StateMark state={one.state} due={one.due} />
        <span className="sr-only">{one.why || STATE_WORDS[one.state]}</span>
        <span className="ml-auto whitespace-nowrap">{shown.map((ink) => day(ink.day)).join(" – ")}</span>
      </p>
    </Link>
  );
}

import { Link } from "react-router";
import type { Child } from "@/api/client";
import { useWordsOf } from "@/api/written";
import { momentFormat } from "@/app/days";
import { WordStrip } from "@/screens/write/WordResult";

const SHOWN = 4;
const day = momentFormat({ day: "numeric", month: "short" });

/** The words a child wrote last; nothing where there are none. */
export function LatestWords({ child }: { child: Child }) {
  const { data } = useWordsOf(child.id, SHOWN);
  if (!data?.length) return null;
  return (
    <section aria-label="Latest words" className="mt-6 border-t-2 border-ink pt-2">
      <h2 className="flex items-baseline gap-3 font-bold">
        Latest words
        <Link
          to={`/children/${child.id}/words`}
          className="text-small font-normal underline decoration-pale underline-offset-4 hover:decoration-ink"
        >
          All words
        </Link>
      </h2>
      <div className="mt-2 grid grid-cols-4 gap-x-6">
        {data.map((word) => (
          <figure key={word.id}>
            <figcaption className="text-small text-graphite">
              {word.text}, {day(word.started_at)}
            </figcaption>
            <WordStrip word={word} least={680} />
          </figure>
        ))}
      </div>
    </section>
  );
}

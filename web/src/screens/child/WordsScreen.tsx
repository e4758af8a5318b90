import { Link, useParams } from "react-router";
import type { Word } from "@/api/client";
import { useCrossOutWord, useWordsOf } from "@/api/written";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { dayOf, WordFindings, WordStrip } from "@/screens/write/WordResult";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";

const LATEST = 60;

/** Every word and line of a child, latest first, with what was to be said of it. */
export function WordsScreen() {
  const childId = Number(useParams().childId);
  const query = useWordsOf(childId, LATEST);
  const { children } = useClass();
  const child = children.find((one) => one.id === childId) ?? query.data?.[0]?.child;
  return (
    <>
      <PageHead title={child ? `${child.name}: words` : "Words"}>
        <LinkButton look="quiet" to={`/children/${childId}`}>
          The whole story
        </LinkButton>
        <LinkButton look="strong" to={`/write?what=words&child=${childId}`}>
          Write a word
        </LinkButton>
      </PageHead>
      <Loaded query={query} what="the words">
        {(words) =>
          words.length ? (
            <ol>
              {words.map((word) => (
                <Written key={word.id} word={word} />
              ))}
            </ol>
          ) : (
            <Empty title="No words yet">
              <LinkButton to={`/write?what=words&child=${childId}`}>Write the first</LinkButton>
            </Empty>
          )
        }
      </Loaded>
    </>
  );
}

function Written({ word }: { word: Word }) {
  const cross = useCrossOutWord();
  return (
    <li className="grid grid-cols-[minmax(0,5fr)_minmax(0,4fr)] gap-x-8 border-t border-hair py-3">
      <div>
        <h2 className="flex items-baseline gap-3">
          <Link to={`/write/word/${word.id}`} className="font-bold hover:underline">
            {word.text}
          </Link>
          <span className="text-small text-graphite">{dayOf(word)}</span>
        </h2>
        <WordStrip word={word} least={1100} />
      </div>
      <div className="flex flex-col items-start">
        <WordFindings word={word} />
        <Button
          look="quiet"
          className="mt-auto -ml-3"
          aria-label={`${word.crossed_out ? "Count" : "Cross out"} ${word.text} of ${dayOf(word)}`}
          onClick={() => cross.mutate({ id: word.id, crossed_out: !word.crossed_out })}
        >
          {word.crossed_out ? "Count it again" : "Cross out"}
        </Button>
      </div>
    </li>
  );
}

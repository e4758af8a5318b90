import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { Word } from "@/api/client";
import { useCrossOutWord, useLookAtWords, useWordsToLookAt } from "@/api/written";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { dayOf, WordFindings, WordStrip } from "@/screens/write/WordResult";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";

const idsOf = (some: Word[]) => some.map((word) => word.id);
const words = (count: number) => `${count} word${count === 1 ? "" : "s"}`;

/** What the class wrote and the teacher has not looked at: the first by a key, or all at once. */
export function CheckWords() {
  const { id } = useClass();
  const query = useWordsToLookAt(id);
  const waiting = query.data ?? [];
  const steps = useLookAtWords();
  const cross = useCrossOutWord();
  const [seen, setSeen] = useState<number[]>([]);
  const look = (ids: number[]) =>
    ids.length && steps.mutate({ word_ids: ids, looked_at: true }, { onSuccess: () => setSeen(ids) });
  const undo = () =>
    seen.length && steps.mutate({ word_ids: seen, looked_at: false }, { onSuccess: () => setSeen([]) });
  useKeys({ a: () => look(idsOf(waiting.slice(0, 1))), u: undo });
  const even = waiting.filter((word) => word.result && !word.to_say.length);
  return (
    <>
      <PageHead crowded title="Words to look at" sub={query.data && words(waiting.length)}>
        <p role="status" className="text-small text-graphite">
          {seen.length > 0 && `Looked at ${words(seen.length)}.`}
          {steps.error && <span className="text-brick">{steps.error.message}</span>}
        </p>
        {seen.length > 0 && (
          <Button look="quiet" shortcut="U" onClick={undo}>
            Undo
          </Button>
        )}
        {even.length > 0 && (
          <Button onClick={() => look(idsOf(even))}>Looked at the {even.length} all secure</Button>
        )}
        {waiting.length > 0 && <Button onClick={() => look(idsOf(waiting))}>Looked at all</Button>}
        <LinkButton look="quiet" to="/check">
          Rows
        </LinkButton>
      </PageHead>
      <Loaded query={query} what="the words">
        {(all) =>
          all.length ? (
            <ol className="grid grid-cols-2 gap-x-10 max-[900px]:grid-cols-1">
              {all.map((word, i) => (
                <Waiting key={word.id} word={word}>
                  <Button
                    look="quiet"
                    {...(i === 0 && { shortcut: "A" })}
                    aria-label={`Looked at ${word.child.name}, ${word.text} of ${dayOf(word)}`}
                    onClick={() => look([word.id])}
                  >
                    Looked at
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Cross out ${word.child.name}, ${word.text} of ${dayOf(word)}`}
                    onClick={() => cross.mutate({ id: word.id, crossed_out: true })}
                  >
                    Cross out
                  </Button>
                </Waiting>
              ))}
            </ol>
          ) : (
            <Empty title="No word waits: you have looked at every one">
              <LinkButton to="/write?what=words">Write a word</LinkButton>
            </Empty>
          )
        }
      </Loaded>
    </>
  );
}

function Waiting({ word, children }: { word: Word; children: ReactNode }) {
  return (
    <li className="min-w-0 border-t border-hair pt-1 pb-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2>
          <Link to={`/children/${word.child.id}/words`} className="font-bold hover:underline">
            {word.child.name}, {word.text}
          </Link>
        </h2>
        <span className="text-small text-graphite">{dayOf(word)}</span>
        <span className="ml-auto" />
        {children}
      </div>
      <WordStrip word={word} least={1300} />
      <WordFindings word={word} />
    </li>
  );
}

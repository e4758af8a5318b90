import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { useNavigate, useParams } from "react-router";
import { api, got, type TextModel, type Word } from "@/api/client";
import { keys } from "@/api/keys";
import { useModel } from "@/api/queries";
import { useAskForWord, useCrossOutWord, useWord } from "@/api/written";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { flush, postWord, shelf, watch, wordWaiting } from "@/ink/outbox";
import { usePen } from "@/ink/usePen";
import { EmptyBoxes } from "@/screens/dictation/Boxes";
import { Button, LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { NotKept, SimulatedPen, Waiting } from "./Aids";
import { TeacherOnly } from "./TeacherOnly";
import { keepUnderPen, useDraft, useKeeping } from "./underPen";
import { Example, useWordPaper, WordSheet } from "./WordPaper";
import { WordFindings, WordStrip } from "./WordResult";

/** The child's page for a word or a line: the model above, the lines to write on below. */
export function WriteWord() {
  const query = useWord(Number(useParams().wordId));
  const { id } = useClass();
  const model = useModel(query.data?.text ?? "l", id);
  return (
    <main className="flex h-screen flex-col overflow-hidden bg-paper">
      <Loaded query={query} what="the word">
        {(word) => (
          <Loaded query={model} what="the model">
            {(text) => text.char === word.text && <Writing key={word.id} word={word} model={text} />}
          </Loaded>
        )}
      </Loaded>
    </main>
  );
}

function Writing({ word, model }: { word: Word; model: TextModel }) {
  const client = useQueryClient();
  useSyncExternalStore(watch, shelf); // what is written may be waiting there
  const waiting = wordWaiting(word);
  const strokes = waiting ?? word.strokes;
  const written = strokes.length > 0;
  const [box, paper] = useWordPaper(word, model);
  const draft = {
    page: `word ${word.id} ${word.started_at}`,
    address: `/write/word/${word.id}`,
    what: word.boxes ? `${word.child.name}, a dictated word` : `${word.child.name}, ${word.text}`,
  };
  const pen = usePen({ paper, enabled: !written, onChange: (ink) => keepUnderPen(draft, ink) });
  useDraft(pen, draft, !written);
  const { keeping, unkept, keep } = useKeeping(pen);
  useEffect(() => {
    void flush(); // whatever was left on this device
  }, []);
  const end = async () => {
    if (!pen.hasInk) return;
    await keep((_, ink) => postWord(word, ink, draft.page));
    await flush();
    await client.invalidateQueries({ queryKey: keys.word(word.id) });
  };
  useKeys({ Enter: () => void end() });
  return (
    <>
      <header className="flex h-20 shrink-0 items-center justify-between px-10">
        <title>{`${word.child.first_name} writes ${word.boxes ? "a word" : word.text} · First Loop`}</title>
        <h1 className="text-title font-bold">{word.child.first_name}</h1>
        <p className="text-graphite" aria-live="polite">
          {written ? "done" : word.boxes ? "the word you hear" : word.text}
        </p>
      </header>
      {word.result ? (
        <Done word={word} />
      ) : (
        <>
          {word.boxes ? (
            <div className="flex h-40 shrink-0 items-center px-10">
              <EmptyBoxes count={word.boxes} size="big" />
            </div>
          ) : (
            <Example model={model} />
          )}
          <div ref={box} className="relative min-h-0 flex-1 border-t border-hair">
            {paper && <WordSheet word={word} model={model} paper={paper} strokes={strokes} />}
            {!written && (
              <canvas
                ref={pen.canvas}
                aria-label={word.boxes ? "Write the word here" : `Write ${word.text} here`}
                className="absolute inset-0 h-full w-full touch-none text-ink"
              />
            )}
          </div>
          <Waiting />
          {unkept && <NotKept />}
          {word.error && (
            <p role="alert" className="px-10 text-brick">
              The word is kept; it could not be looked at. {word.error}
            </p>
          )}
          <footer className="flex min-h-28 shrink-0 flex-wrap items-center justify-end gap-x-4 gap-y-2 px-10 py-2 max-[1100px]:px-4">
            <SimulatedPen
              feed={pen.feed}
              ink={() =>
                got(
                  api.GET("/api/written/{word_id}/simulated-pen", {
                    params: { path: { word_id: word.id } },
                  }),
                )
              }
            />
            <TeacherOnly>
              <LinkButton big to="/write?what=words">
                Leave
              </LinkButton>
            </TeacherOnly>
            <Button big onClick={pen.clear} disabled={!pen.hasInk}>
              Begin again
            </Button>
            <Button big look="strong" onClick={() => void end()} disabled={!pen.hasInk || keeping}>
              Done
            </Button>
          </footer>
        </>
      )}
    </>
  );
}

/** The word is done: the child sees the ink and one thing to try; what the checker says is the teacher's to open. */
function Done({ word }: { word: Word }) {
  const [together, setTogether] = useState(false);
  const next = word.to_say.find((one) => one.child)?.child;
  const navigate = useNavigate();
  const ask = useAskForWord((next) => navigate(`/write/word/${next.id}`));
  const cross = useCrossOutWord();
  return (
    <>
      <div className="min-h-0 flex-1 overflow-y-auto px-10">
        <WordStrip word={word} least={1550} plain={!together} />
        {together ? (
          <WordFindings word={word} />
        ) : (
          <div role="status">
            <p className="text-small text-graphite">{next ? "Next time" : "Done"}</p>
            <p className="text-title">
              {next ?? (word.to_say.length ? "Look at it with your teacher." : "Every letter can be read.")}
            </p>
          </div>
        )}
      </div>
      <footer className="flex min-h-28 shrink-0 flex-wrap items-center justify-end gap-x-4 gap-y-2 px-10 py-2 max-[1100px]:px-4">
        <TeacherOnly>
          <Button big pressed={together} onClick={() => setTogether(!together)}>
            Look at it together
          </Button>
          <LinkButton big to={`/children/${word.child.id}/words`}>
            All words of {word.child.first_name}
          </LinkButton>
          <LinkButton big to={`/write?what=words&child=${word.child.id}`}>
            Another word
          </LinkButton>
        </TeacherOnly>
        <Button
          big
          onClick={() => cross.mutate({ id: word.id, crossed_out: !word.crossed_out })}
          disabled={cross.isPending}
        >
          {word.crossed_out ? "Not crossed out" : "Cross it out"}
        </Button>
        <Button
          big
          look="strong"
          onClick={() => ask.mutate({ child_id: word.child.id, text: word.text })}
          disabled={ask.isPending}
        >
          Write it again
        </Button>
      </footer>
    </>
  );
}

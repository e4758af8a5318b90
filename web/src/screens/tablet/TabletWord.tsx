import { type ReactNode, useSyncExternalStore } from "react";
import type { TabletSheet } from "@/api/client";
import { useKeys } from "@/app/useKeys";
import { crossingWaits, postCrossedOut, postWord, shelf, watch, wordWaiting } from "@/ink/outbox";
import { usePen } from "@/ink/usePen";
import { EmptyBoxes } from "@/screens/dictation/Boxes";
import { NotKept, Waiting } from "@/screens/write/Aids";
import { keepUnderPen, useDraft, useKeeping } from "@/screens/write/underPen";
import { Example, useWordPaper, WordSheet } from "@/screens/write/WordPaper";
import { Button } from "@/ui/Button";
import { showUnderPen } from "./underPen";

type Props = { sheet: TabletSheet; name: string; rubs: boolean; resting: boolean; state: ReactNode };

/** A word or a line on a child's tablet. */
export function TabletWord({ sheet, name, rubs, resting, state }: Props) {
  useSyncExternalStore(watch, shelf); // what is written may be waiting there
  const word = { ...sheet, left_mm: sheet.letter_left_mm };
  const strokes = wordWaiting(sheet) ?? sheet.attempts[0]?.strokes ?? [];
  const written = strokes.length > 0;
  const crossedOut = crossingWaits(sheet) || Boolean(sheet.attempts[0]?.crossed_out);
  const [box, paper] = useWordPaper(word, sheet.model);
  const draft = {
    page: `word ${sheet.id} ${sheet.started_at}`,
    address: "/tablet",
    what: sheet.boxes ? `${name}, a dictated word` : `${name}, ${sheet.text}`,
  };
  const pen = usePen({
    paper,
    enabled: !written && !resting,
    onChange: (ink) => {
      keepUnderPen(draft, ink);
      showUnderPen(sheet, ink);
    },
  });
  useDraft(pen, draft, !written);
  const { keeping, unkept, keep } = useKeeping(pen);
  const end = () => {
    if (pen.hasInk) void keep((_, ink) => postWord(sheet, ink, draft.page, { tablet: true }));
  };
  const crossOut = () => {
    if (written && !crossedOut && !resting) void postCrossedOut(sheet);
  };
  useKeys({ Enter: end, c: crossOut });
  return (
    <>
      {state}
      <header className="flex h-20 shrink-0 items-center justify-between px-10">
        <title>{`${name} writes ${sheet.boxes ? "a word" : sheet.text} · First Loop`}</title>
        <h1 className="text-title font-bold">{name}</h1>
        <p className="text-graphite" aria-live="polite">
          {written ? "done" : sheet.boxes ? "the word you hear" : sheet.text}
        </p>
      </header>
      {sheet.boxes ? (
        <div className="flex h-40 shrink-0 items-center px-10">
          <EmptyBoxes count={sheet.boxes} size="big" />
        </div>
      ) : (
        sheet.model && <Example model={sheet.model} ruling={sheet.ruled} />
      )}
      <div ref={box} className="relative min-h-0 flex-1 border-t border-hair">
        {paper && (
          <WordSheet
            word={word}
            model={sheet.model}
            paper={paper}
            strokes={strokes}
            crossedOut={crossedOut}
          />
        )}
        {!written && (
          <canvas
            ref={pen.canvas}
            aria-label={sheet.boxes ? "Write the word here" : `Write ${sheet.text} here`}
            className="absolute inset-0 h-full w-full touch-none text-ink"
          />
        )}
      </div>
      <Waiting />
      {unkept && <NotKept />}
      <footer className="flex min-h-28 shrink-0 flex-wrap items-center justify-end gap-x-4 gap-y-2 px-10 py-2 max-[1100px]:px-4">
        {written ? (
          <>
            <p role="status" className="mr-auto text-huge">
              {crossedOut ? "Crossed out. A clean line comes." : "Well done. Look up."}
            </p>
            {!crossedOut && (
              <Button big onClick={crossOut} disabled={resting}>
                {rubs ? "Rub" : "Cross"} it out
              </Button>
            )}
          </>
        ) : (
          <>
            <Button big onClick={pen.clear} disabled={!pen.hasInk}>
              Begin again
            </Button>
            <Button big look="strong" onClick={end} disabled={!pen.hasInk || keeping}>
              Done
            </Button>
          </>
        )}
      </footer>
    </>
  );
}

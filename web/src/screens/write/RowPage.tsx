import type { ReactNode } from "react";
import { useCallback, useEffect, useRef } from "react";
import type { Attempt, AttemptIn, Row, Support, TextModel } from "@/api/client";
import { useKeys } from "@/app/useKeys";
import { waitingFor } from "@/ink/outbox";
import { moved } from "@/ink/paths";
import type { Draft } from "@/ink/shelf";
import { type Pen, usePen } from "@/ink/usePen";
import { Button } from "@/ui/Button";
import { NotKept, Waiting } from "./Aids";
import { freshKey, keepUnderPen, useDraft, useKeeping } from "./underPen";
import { type PaperRow, usePaper, WritingStrip, type Written } from "./WritingStrip";

type Props = {
  row: PaperRow;
  /** Whose row it is. */
  name: string;
  letter: TextModel;
  written: Written[];
  /** What the records still expect; what waits on the device is written already. */
  toWrite: Support[];
  draft: Omit<Draft, "strokes">;
  /** Whether the class rubs out, or crosses out. */
  rubs: boolean;
  /** Keep an attempt somewhere safe, then send it; false where it is safe nowhere. */
  keep: (attempt: AttemptIn) => Promise<boolean>;
  crossLast: () => Promise<void>;
  onPick: (key: string) => void;
  /** What stands beside the child's own buttons; `feed` lets a simulated pen write. */
  aids?: (feed: Pen["feed"]) => ReactNode;
  /** What stands below a row that is full. */
  end: ReactNode;
  /** Pens are down: nothing is written just now. */
  resting?: boolean;
  onUnderPen?: (strokes: Draft["strokes"]) => void;
  /** What is under the pen when another sheet takes this one's place is ended and kept. */
  endsOnLeaving?: boolean;
};

/** Everything on the paper, each once: what the records have, then what is on its way to them. */
export function writtenOn(
  sheet: Pick<Row, "id" | "started_at">,
  kept: Pick<Attempt, "key" | "strokes" | "crossed_out" | "best">[],
): Written[] {
  const waiting = waitingFor(sheet);
  const known = kept.map(({ key, strokes, crossed_out, best }) => ({
    key,
    strokes,
    crossedOut: crossed_out || waiting.some((one) => one.key === key && one.crossed_out),
    kept: true,
    best,
  }));
  const onTheirWay = waiting
    .filter(({ key }) => !known.some((one) => one.key === key))
    .map(({ key, strokes, crossed_out = false }) => ({
      key,
      strokes,
      crossedOut: crossed_out,
      kept: false,
      best: false,
    }));
  return [...known, ...onTheirWay];
}

/** What the next slots offer, none when the row is full; what waits on the device is written already. */
const toCome = (toWrite: Support[], written: Written[]): Support[] =>
  toWrite.slice(written.filter((one) => !one.kept && !one.crossedOut).length);

/** The child's page for a row: the strip, the model, the pen, and three words. */
export function RowPage(props: Props) {
  const { row, letter, written, draft } = props;
  const offered = toCome(props.toWrite, written);
  const support = offered[0] ?? null;
  const writable = support !== null && !props.resting;
  const [box, paper] = usePaper(row, written.length, support === null);
  // letters on top of one another are kept side by side: each is moved to the slot it would have had
  const toItsSlot = row.layered ? row.slot_mm * written.length : 0;
  const slotOf = useCallback((xMm: number) => Math.floor(xMm / row.slot_mm), [row.slot_mm]);
  const pen = usePen({
    paper,
    enabled: writable,
    onChange: (strokes) => {
      keepUnderPen(draft, strokes);
      props.onUnderPen?.(strokes);
    },
    onDown: (xMm) => {
      if (!row.layered && pen.hasInk && slotOf(xMm) > written.length) end(false);
    },
  });
  useDraft(pen, draft, support !== null);
  const { keeping, unkept, keep, settled } = useKeeping(pen);
  const end = (crossedOut: boolean) => {
    if (!support || !pen.hasInk) return;
    void keep((key, ink) =>
      props.keep({ key, support, strokes: moved(ink, toItsSlot), crossed_out: crossedOut }),
    );
  };
  const leaving = useRef(() => {});
  leaving.current = () => {
    if (props.endsOnLeaving && support && pen.hasInk && !keeping)
      void props.keep({
        key: freshKey(),
        support,
        strokes: moved(structuredClone(pen.ink()), toItsSlot),
        crossed_out: false,
      });
  };
  useEffect(() => () => leaving.current(), []);
  const cross = async () => {
    if (pen.hasInk && !keeping) return end(true);
    await settled();
    await props.crossLast();
  };
  useKeys({ Enter: () => end(false), c: () => void cross() });
  const count = written.filter((one) => !one.crossedOut).length;
  return (
    <>
      <header className="flex h-20 shrink-0 items-center justify-between px-10">
        <title>{`${props.name} writes ${row.letter} · First Loop`}</title>
        <h1 className="text-title font-bold">{props.name}</h1>
        <p className="text-graphite" aria-live="polite">
          {support ? (
            <>
              <span>{`${count + 1} of ${row.support.length}`}</span> · {HELP[support]}
            </>
          ) : (
            "done"
          )}
        </p>
      </header>
      <div ref={box} className="relative min-h-0 flex-1" data-slot={row.slot_mm * (100 / xhOf(row))}>
        {paper && (
          <WritingStrip
            row={row}
            letter={letter}
            written={written}
            toCome={offered}
            paper={paper}
            onPick={support ? undefined : props.onPick}
          />
        )}
        {support && (
          <canvas
            ref={pen.canvas}
            aria-label={`Write ${row.letter} here`}
            className="absolute inset-0 h-full w-full touch-none text-ink"
          />
        )}
      </div>
      <Waiting />
      {unkept && <NotKept />}
      {support ? (
        <footer className="flex min-h-32 shrink-0 flex-wrap items-center gap-x-4 gap-y-2 px-10 py-2 max-[1100px]:px-4">
          <p className="text-huge max-[1100px]:text-title">{threeWords(letter)}</p>
          <div className="ml-auto flex flex-wrap items-center gap-4">
            {props.aids?.(pen.feed)}
            <Button
              big
              onClick={() => void cross()}
              disabled={!pen.hasInk && !written.some((one) => !one.crossedOut)}
            >
              {props.rubs ? "Rub" : "Cross"} {pen.hasInk ? "it out" : "out the last one"}
            </Button>
            <Button big look="strong" onClick={() => end(false)} disabled={!pen.hasInk || keeping}>
              Next
            </Button>
          </div>
        </footer>
      ) : (
        props.end
      )}
    </>
  );
}

const xhOf = ({ lines }: PaperRow) => lines.base - lines.mid;

const HELP: Record<Support, string> = {
  trace: "trace it",
  finish: "finish it",
  ring: "start in the ring",
  alone: "on your own",
};
const WORDS_MOST = 4;

/** The moves in the fewest words: "Down. Back up. Over and down." */
const threeWords = (letter: TextModel) =>
  letter.patter
    .filter((phrase) => !phrase.is_start || phrase.stroke > 0)
    .slice(0, WORDS_MOST)
    .map((phrase) => `${phrase.short}.`)
    .join(" ");

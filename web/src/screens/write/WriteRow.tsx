import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useSyncExternalStore } from "react";
import { useParams } from "react-router";
import { api, got, type LetterModel, type Row, type Support } from "@/api/client";
import { keys } from "@/api/keys";
import { useLetter, useRow, useRowSteps } from "@/api/queries";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { crossOutWaiting, flush, post, shelf, waitingFor, watch } from "@/ink/outbox";
import { moved } from "@/ink/paths";
import { usePen } from "@/ink/usePen";
import { Button, LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { NotKept, SimulatedPen, Waiting } from "./Aids";
import { RowEnd } from "./RowEnd";
import { TeacherOnly } from "./TeacherOnly";
import { keepUnderPen, useDraft, useKeeping } from "./underPen";
import { usePaper, WritingStrip, type Written } from "./WritingStrip";

/** The child's page: the strip, the model, the pen, and three words. */
export function WriteRow() {
  const rowId = Number(useParams().rowId);
  const query = useRow(rowId);
  const { id } = useClass();
  const letter = useLetter(query.data?.letter ?? "l", id);
  return (
    <main className="flex h-screen flex-col overflow-hidden bg-paper">
      <Loaded query={query} what="the row">
        {(row) => (
          <Loaded query={letter} what="the model">
            {(model) => model.char === row.letter && <Writing key={row.id} row={row} letter={model} />}
          </Loaded>
        )}
      </Loaded>
    </main>
  );
}

/** Everything on the paper, each once: what the records have, then what is on its way to them. */
function writtenSoFar(row: Row): Written[] {
  const waiting = waitingFor(row);
  const known: Written[] = row.attempts.map((one) => ({
    key: one.key,
    strokes: one.strokes,
    crossedOut: one.crossed_out || waiting.some(({ key, crossed_out }) => key === one.key && crossed_out),
    id: one.id,
    best: one.best,
  }));
  const onTheirWay = waiting.filter(({ key }) => !known.some((one) => one.key === key));
  return [
    ...known,
    ...onTheirWay.map(({ key, strokes, crossed_out = false }) => ({
      key,
      strokes,
      crossedOut: crossed_out,
      id: null,
      best: false,
    })),
  ];
}

/** What the next slots offer, none when the row is full; what waits on the device is written already. */
const toCome = (row: Row, written: Written[]): Support[] =>
  row.to_write.slice(written.filter((one) => one.id === null && !one.crossedOut).length);

function Writing({ row, letter }: { row: Row; letter: LetterModel }) {
  const client = useQueryClient();
  const { style } = useClass();
  useSyncExternalStore(watch, shelf); // what is written may be waiting there
  const written = writtenSoFar(row);
  const support = toCome(row, written)[0] ?? null;
  const [box, paper] = usePaper(row, written.length, support === null);
  // letters on top of one another are kept side by side: each is moved to the slot it would have had
  const toItsSlot = row.layered ? row.slot_mm * written.length : 0;
  const slotOf = useCallback((xMm: number) => Math.floor(xMm / row.slot_mm), [row.slot_mm]);

  const refresh = useCallback(async () => {
    await flush();
    await client.invalidateQueries({ queryKey: keys.row(row.id) });
  }, [client, row.id]);

  useEffect(() => {
    void refresh();
  }, [refresh]);

  const draft = {
    page: `row ${row.id} ${row.started_at}`,
    address: `/write/${row.id}`,
    what: `${row.child.name}, ${row.letter}`,
  };
  const pen = usePen({
    paper,
    enabled: support !== null,
    onChange: (strokes) => keepUnderPen(draft, strokes),
    onDown: (xMm) => {
      if (!row.layered && pen.hasInk && slotOf(xMm) > written.length) end(false);
    },
  });

  useDraft(pen, draft, support !== null);

  const { keeping, unkept, keep, settled } = useKeeping(pen);
  const end = (crossedOut: boolean) => {
    if (!support || !pen.hasInk) return;
    void keep((key, ink) => {
      const strokes = moved(ink, toItsSlot);
      return post(row, { key, support, strokes, crossed_out: crossedOut }, draft.page);
    });
  };
  const { edit } = useRowSteps(row.id);
  const cross = async () => {
    if (pen.hasInk && !keeping) return end(true);
    await settled();
    await flush(); // the last attempt may still be on its way
    if (await crossOutWaiting(row)) return;
    const { attempts } = await got(api.GET("/api/rows/{row_id}", { params: { path: { row_id: row.id } } }));
    const last = attempts.findLast((one) => !one.crossed_out);
    if (last) edit.mutate({ attempt_ids: [last.id], crossed_out: true });
  };
  const pick = (id: number) => edit.mutate({ attempt_ids: [id], best: true });
  useKeys({ Enter: () => end(false), c: () => void cross() });
  const count = written.filter((one) => !one.crossedOut).length;
  return (
    <>
      <header className="flex h-20 shrink-0 items-center justify-between px-10">
        <title>{`${row.child.first_name} writes ${row.letter} · First Loop`}</title>
        <h1 className="text-title font-bold">{row.child.first_name}</h1>
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
      <div ref={box} className="relative min-h-0 flex-1" data-slot={row.slot_mm * (100 / row.xh_mm)}>
        {paper && (
          <WritingStrip
            row={row}
            letter={letter}
            written={written}
            toCome={toCome(row, written)}
            paper={paper}
            onPick={support ? undefined : pick}
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
            <SimulatedPen
              feed={pen.feed}
              ink={() =>
                got(api.GET("/api/rows/{row_id}/simulated-pen", { params: { path: { row_id: row.id } } }))
              }
            />
            <TeacherOnly>
              <LinkButton big to="/write">
                Leave
              </LinkButton>
            </TeacherOnly>
            <Button
              big
              onClick={() => void cross()}
              disabled={!pen.hasInk && !written.some((one) => !one.crossedOut)}
            >
              {style.correction === "rub-out" ? "Rub" : "Cross"} {pen.hasInk ? "it out" : "out the last one"}
            </Button>
            <Button big look="strong" onClick={() => end(false)} disabled={!pen.hasInk || keeping}>
              Next
            </Button>
          </div>
        </footer>
      ) : (
        <RowEnd row={row} />
      )}
    </>
  );
}

const HELP: Record<Support, string> = {
  trace: "trace it",
  finish: "finish it",
  ring: "start in the ring",
  alone: "on your own",
};
const WORDS_MOST = 4;

/** The moves in the fewest words: "Down. Back up. Over and down." */
const threeWords = (letter: LetterModel) =>
  letter.patter
    .filter((phrase) => !phrase.is_start || phrase.stroke > 0)
    .slice(0, WORDS_MOST)
    .map((phrase) => `${phrase.short}.`)
    .join(" ");

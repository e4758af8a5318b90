import { useEffect, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { rowsOf, useQueue } from "@/api/checking";
import type { QueueOrder, RowSummary } from "@/api/client";
import { useFamilies, useRows } from "@/api/queries";
import { useWordsToLookAt } from "@/api/written";
import { momentFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { Bead, WORDS } from "@/ui/Bead";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Empty, Loaded } from "@/ui/States";
import { Queue } from "./Queue";
import { QueueWords } from "./QueueWords";
import { useQueueOrder } from "./useQueueOrder";

const MARKED_SHOWN = 40;
const ORDERS: { value: QueueOrder; words: string }[] = [
  { value: "worrying", words: "Most worrying first" },
  { value: "newest", words: "Newest first" },
];
const when = momentFormat({ weekday: "short", day: "numeric", month: "short" });

/** The queue: rows that wait for the teacher's mark, then those marked of late. */
export function CheckList() {
  const { id } = useClass();
  const [order, setOrder] = useQueueOrder();
  const queue = useQueue(id, order);
  const waitingWords = useWordsToLookAt(id, order).data;
  const words = waitingWords?.length ?? 0;
  const [search] = useSearchParams();
  const [word, setWord] = useState<number | null>(null);
  const first = waitingWords?.[0]?.id;
  const toWords = search.get("at") === "words";
  useEffect(() => {
    if (toWords && first !== undefined) setWord((now) => now ?? first);
  }, [toWords, first]);
  const anyWords = useRef(false);
  anyWords.current ||= words > 0;
  const latest = useRows({ class_id: id, limit: MARKED_SHOWN });
  const shown = new Set(rowsOf(queue.data?.groups ?? []).map((row) => row.id));
  const marked = (latest.data ?? []).filter((row) => row.marked && !shown.has(row.id));
  return (
    <>
      <PageHead crowded title="Check">
        <Choice name="Order" options={ORDERS} chosen={order} onChoose={setOrder} />
        {words > 0 && (
          <Button look="quiet" onClick={() => setWord(first ?? null)}>
            {words === 1 ? "1 word" : `${words} words`}
          </Button>
        )}
        <LinkButton look="quiet" to="/check/pages">
          Pages
        </LinkButton>
        <LinkButton look="quiet" to="/check/watch">
          Watch on paper
        </LinkButton>
        <LinkButton look="quiet" to="/check/trust">
          Marks and checks
        </LinkButton>
      </PageHead>
      <Loaded query={queue} what="the rows that wait">
        {(data) => (
          <>
            {data.groups.length > 0 ? (
              <Queue
                key={`${id} ${order}`}
                queue={data}
                idle={word !== null}
                onTake={() => setWord(null)}
                onBelow={() => setWord(first ?? null)}
              />
            ) : marked.length + words > 0 ? (
              <p className="border-t-2 border-ink py-3 text-graphite">
                No row waits: every one has your mark.
              </p>
            ) : (
              <Empty title="No row has been written yet">
                <LinkButton to="/write">Start a row</LinkButton>
              </Empty>
            )}
            {waitingWords && anyWords.current && (
              <QueueWords
                key={`${id} ${order}`}
                words={waitingWords}
                chosen={word}
                onChoose={setWord}
                onAbove={() => document.querySelector<HTMLElement>("[data-row] [aria-pressed=true]")?.focus()}
              />
            )}
            {marked.length > 0 && <Marked rows={marked} />}
          </>
        )}
      </Loaded>
    </>
  );
}

function Marked({ rows: marked }: { rows: RowSummary[] }) {
  return (
    <section aria-label="Marked" className="mb-6">
      <h2 className="border-b-2 border-ink pb-1 font-bold">
        Marked <span className="text-small font-normal text-graphite">of the latest</span>
      </h2>
      <ul className="columns-2 gap-8 max-[1100px]:gap-4">
        {marked.map((row) => (
          <RowLine key={row.id} row={row} />
        ))}
      </ul>
    </section>
  );
}

function RowLine({ row }: { row: RowSummary }) {
  const { id } = useClass();
  const { data } = useFamilies(id);
  const drawing = data?.families
    .flatMap((family) => family.members)
    .find((one) => one.drawing.char === row.letter)?.drawing;
  const words = row.verdicts.map((verdict) => (verdict ? WORDS[verdict] : "crossed out")).join(", ");
  return (
    <li className="break-inside-avoid border-b border-hair">
      <Link
        to={`/check/${row.id}`}
        className="grid h-12 grid-cols-[88px_40px_1fr_auto] items-center gap-2 rounded-sm hover:bg-ochre/35 focus:bg-ochre/35"
      >
        <span>
          <b>{row.child.name}</b>
          <span className="sr-only">
            , {row.letter}: {words},
          </span>
        </span>
        <svg viewBox="-90 -215 180 330" className="h-9" aria-hidden="true">
          {drawing && <Glyph letter={drawing} x={centred(drawing, 0)} weight={14} />}
        </svg>
        <span className="flex">
          {row.verdicts.map((verdict, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: attempts are known by their place
            <span key={i} className="-mr-1">
              {verdict ? (
                <Bead verdict={verdict} silent />
              ) : (
                <span aria-hidden="true" className="inline-block w-7 text-center text-mid">
                  ×
                </span>
              )}
            </span>
          ))}
        </span>
        <span className="text-small text-graphite">{when(row.started_at)}</span>
      </Link>
    </li>
  );
}

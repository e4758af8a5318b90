import { useRef, useState } from "react";
import { Link } from "react-router";
import { useAgreeWithRows, useQueue } from "@/api/checking";
import type { QueueOrder, RowSummary } from "@/api/client";
import { useFamilies, useRows } from "@/api/queries";
import { useWordsToLookAt } from "@/api/written";
import { momentFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { centred, Glyph } from "@/line/Letter";
import { Bead, WORDS } from "@/ui/Bead";
import { Button, LINK, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Empty, Loaded } from "@/ui/States";
import { useQueueOrder } from "./useQueueOrder";

const MARKED_SHOWN = 40;
const ORDERS: { value: QueueOrder; words: string }[] = [
  { value: "newest", words: "Newest first" },
  { value: "worrying", words: "Most worrying first" },
];
const when = momentFormat({ weekday: "short", day: "numeric", month: "short" });

const rows = (count: number) => `${count} row${count === 1 ? "" : "s"}`;

/** The queue: rows that wait for the teacher's mark, then those marked of late. */
export function CheckList() {
  const { id } = useClass();
  const [order, setOrder] = useQueueOrder();
  const queue = useQueue(id, order);
  const words = useWordsToLookAt(id).data?.length ?? 0;
  const latest = useRows({ class_id: id, limit: MARKED_SHOWN });
  const marked = (latest.data ?? []).filter((row) => row.marked);
  return (
    <>
      <PageHead title="Check">
        <Choice name="Order" options={ORDERS} chosen={order} onChoose={setOrder} />
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
            {data.rows.length + marked.length + words > 0 ? (
              <Waiting key={order} rows={data.rows} words={words} />
            ) : (
              <Empty title="No row has been written yet">
                <LinkButton to="/write">Start a row</LinkButton>
              </Empty>
            )}
            {marked.length > 0 && <Marked rows={marked} />}
          </>
        )}
      </Loaded>
    </>
  );
}

function Waiting({ rows: waiting, words }: { rows: RowSummary[]; words: number }) {
  const { id } = useClass();
  const steps = useAgreeWithRows(id);
  const [agreed, setAgreed] = useState<number[]>([]);
  const list = useRef<HTMLUListElement>(null);
  const agree = (some: RowSummary[]) =>
    steps.agree.mutate(
      some.map((row) => row.id),
      { onSuccess: () => setAgreed(some.map((row) => row.id)) },
    );
  const undo = () => agreed.length && steps.undo.mutate(agreed, { onSuccess: () => setAgreed([]) });
  const links = () => [...(list.current?.querySelectorAll("a") ?? [])];
  const move = (by: number) => {
    const at = links().indexOf(document.activeElement as HTMLAnchorElement);
    const to = at < 0 ? 0 : Math.min(Math.max(at + by, 0), links().length - 1);
    links()[to]?.focus();
  };
  useKeys({
    ArrowDown: () => move(1),
    ArrowUp: () => move(-1),
    a: () => {
      const row = waiting[links().indexOf(document.activeElement as HTMLAnchorElement)];
      if (row) agree([row]);
    },
    u: undo,
  });
  const secure = waiting.filter((row) => row.all_secure);
  const problem = steps.agree.error ?? steps.undo.error;
  return (
    <section aria-label="To look at" className="mb-6">
      <div className="flex items-end gap-3 border-b-2 border-ink pb-1">
        <h2 className="font-bold">
          To look at <span className="text-small font-normal text-graphite">{rows(waiting.length)}</span>
        </h2>
        {words > 0 && (
          <Link className={`${LINK} text-small`} to="/check/words">
            {words === 1 ? "1 word" : `${words} words`}
          </Link>
        )}
        <p role="status" className="text-small text-graphite">
          {agreed.length > 0 && `Agreed with ${rows(agreed.length)}.`}
          {problem && <span className="text-brick">{problem.message}</span>}
        </p>
        {agreed.length > 0 && (
          <Button look="quiet" shortcut="U" onClick={undo}>
            Undo
          </Button>
        )}
        <span className="ml-auto" />
        {secure.length > 0 && (
          <Button onClick={() => agree(secure)}>Agree with the {secure.length} all secure</Button>
        )}
        {waiting.length > 0 && <Button onClick={() => agree(waiting)}>Agree with all</Button>}
      </div>
      {waiting.length ? (
        <ul ref={list} className="columns-2 gap-8 max-[1100px]:gap-4">
          {waiting.map((row) => (
            <RowLine key={row.id} row={row} />
          ))}
        </ul>
      ) : (
        <p className="py-3 text-graphite">No row waits: every one has your mark.</p>
      )}
    </section>
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
        aria-label={`${row.child.name}, ${row.letter}: ${words}`}
        className="grid h-12 grid-cols-[88px_40px_1fr_auto] items-center gap-2 rounded-sm hover:bg-ochre/35 focus:bg-ochre/35"
      >
        <span className="font-bold">{row.child.name}</span>
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
                <span className="inline-block w-7 text-center text-mid">×</span>
              )}
            </span>
          ))}
        </span>
        <span className="text-small text-graphite">{when(row.started_at)}</span>
      </Link>
    </li>
  );
}

import { Link } from "react-router";
import type { RowSummary } from "@/api/client";
import { useFamilies, useRows } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { Bead, WORDS } from "@/ui/Bead";
import { LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";

const SHOWN = 60;
const when = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short" });

/** Rows to look at, latest first; those without a mark of the teacher's stand first. */
export function CheckList() {
  const { id } = useClass();
  const query = useRows({ class_id: id, limit: SHOWN });
  return (
    <>
      <PageHead title="Check" sub="the latest rows" />
      <Loaded query={query} what="the latest rows">
        {(rows) =>
          rows.length ? (
            <>
              <RowList
                title="To look at"
                rows={rows.filter((row) => !row.marked)}
                none="Every one of the latest rows has your mark."
              />
              <RowList title="Marked" rows={rows.filter((row) => row.marked)} />
            </>
          ) : (
            <Empty title="No row has been written yet">
              <LinkButton to="/write">Start a row</LinkButton>
            </Empty>
          )
        }
      </Loaded>
    </>
  );
}

function RowList({ title, rows, none }: { title: string; rows: RowSummary[]; none?: string }) {
  if (!rows.length && !none) return null;
  return (
    <section className="mb-6">
      <h2 className="border-b-2 border-ink font-bold">
        {title} <span className="text-small font-normal text-graphite">{rows.length}</span>
      </h2>
      {rows.length ? (
        <ul className="columns-2 gap-8 max-[1100px]:gap-4">
          {rows.map((row) => (
            <RowLine key={row.id} row={row} />
          ))}
        </ul>
      ) : (
        <p className="py-3 text-graphite">{none}</p>
      )}
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
        className="grid h-12 grid-cols-[88px_40px_1fr_auto] items-center gap-2 rounded-sm hover:bg-ochre/35"
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
        <span className="text-small text-graphite">{when.format(new Date(row.started_at))}</span>
      </Link>
    </li>
  );
}

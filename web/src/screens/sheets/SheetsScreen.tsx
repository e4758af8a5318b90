import { NavLink, useParams } from "react-router";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { type Table, useDraft } from "./draft";
import { EachPart } from "./EachPart";
import { PrintedPart } from "./PrintedPart";
import { ReadyPart } from "./ReadyPart";
import { ThisPart } from "./ThisPart";
import { useWanted } from "./useWanted";

const PARTS = [
  ["/sheets", "Ready-made"],
  ["/sheets/this", "This sheet"],
  ["/sheets/each", "One for each child"],
  ["/sheets/printed", "Printed before"],
] as const;

const TAB = "border-b-2 px-2 py-1";

/** Sheets of paper: ready-made, one's own, one for each child, and what was printed before. */
export function SheetsScreen() {
  const { id } = useClass();
  return <OfClass key={id} classId={id} />;
}

function OfClass({ classId }: { classId: number }) {
  const { part = "ready" } = useParams();
  const table = useDraft(classId);
  const wanted = useWanted(classId, table);
  return (
    <>
      <PageHead crowded title="Sheets" sub={about(part, table)} />
      <nav aria-label="Parts of the sheets" className="mb-3 flex flex-wrap">
        {PARTS.map(([to, words]) => (
          <NavLink
            key={to}
            to={to}
            end
            className={({ isActive }) =>
              isActive
                ? `${TAB} border-brick font-bold`
                : `${TAB} border-transparent text-graphite hover:text-ink`
            }
          >
            {words}
          </NavLink>
        ))}
      </nav>
      {wanted.error && (
        <p role="alert" className="mb-2 text-brick">
          {wanted.error}
        </p>
      )}
      {part === "this" && <ThisPart table={table} waiting={wanted.waiting} />}
      {part === "each" && <EachPart />}
      {part === "printed" && <PrintedPart />}
      {part === "ready" && <ReadyPart table={table} />}
    </>
  );
}

function about(part: string, { draft }: Table): string | undefined {
  if (part !== "this" || !draft) return undefined;
  const page = `${draft.wish.page === "a4" ? "A4" : "Letter"}${draft.wish.across ? ", across" : ""}`;
  return `${draft.name} · ${page} · ${draft.wish.xh_mm} mm`;
}

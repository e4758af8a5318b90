import { type KeyboardEvent, useState } from "react";
import { Link } from "react-router";
import type { ClassMap as MapOf, State } from "@/api/client";
import { useStanding } from "@/api/overtime";
import { HowItStands } from "@/ui/HowItStands";
import { STATE_WORDS, StateKey, StateMark } from "@/ui/StateMark";

type Row = MapOf["children"][number];
type Cell = Row["cells"][number];
type Family = MapOf["families"][number];
type Sort = "name" | "most";
type At = { child: number; letter: string };

type Props = {
  map: MapOf;
  byFamily: boolean;
  sort: Sort;
  onSort: (sort: Sort) => void;
  family: string;
  onFamily: (key: string) => void;
};

/** The whole class at a glance; a cell opens the ink itself, and says below why it stands so. */
export function ClassMap({ map, byFamily, sort, onSort, family, onFamily }: Props) {
  const [at, setAt] = useState<At | null>(null);
  const families = map.families.filter((one) => !family || one.key === family);
  const byChild = new Map(map.children.map((one) => [one.child.id, one]));
  const rows = sort === "most" ? map.most_to_do.flatMap((id) => byChild.get(id) ?? []) : map.children;
  const letters = families.flatMap((one) => one.letters);
  return (
    <section aria-label="Class map">
      <div className="max-w-full overflow-x-auto">
        <table className="w-full table-fixed border-collapse" onKeyDown={moveFocus}>
          <caption className="sr-only">
            {byFamily ? "Secure letters by family" : "How every letter stands"}, child by child
          </caption>
          <thead>
            <tr>
              <th scope="col" rowSpan={byFamily ? 1 : 2} className="w-28 text-left align-bottom font-normal">
                <button
                  type="button"
                  className="text-small text-graphite underline decoration-pale underline-offset-4 hover:decoration-ink"
                  onClick={() => onSort(sort === "name" ? "most" : "name")}
                >
                  {sort === "name" ? "by name" : "most to do"}
                </button>
              </th>
              {families.map((one) => (
                <th
                  key={one.key}
                  scope="colgroup"
                  colSpan={byFamily ? 1 : one.letters.length}
                  className="border-l border-hair px-1 text-left align-bottom text-small leading-4 font-normal text-graphite"
                >
                  <button
                    type="button"
                    aria-pressed={family === one.key}
                    className="w-full truncate text-left hover:text-ink"
                    title={family ? "All families again" : `Only ${one.name}`}
                    onClick={() => onFamily(family ? "" : one.key)}
                  >
                    {one.name}
                  </button>
                </th>
              ))}
            </tr>
            {!byFamily && (
              <tr className="border-b border-ink">
                {families.flatMap((one) =>
                  one.letters.map((char, i) => (
                    <th key={char} scope="col" className={i ? "font-bold" : "border-l border-hair font-bold"}>
                      {char}
                    </th>
                  )),
                )}
              </tr>
            )}
          </thead>
          <tbody>
            {rows.map((row, r) => (
              <tr key={row.child.id} className="h-[26px] border-b border-hair">
                <th scope="row" className="truncate text-left font-normal">
                  <Link to={`/children/${row.child.id}`} className="hover:underline">
                    {row.child.name}
                  </Link>
                  {row.child.hand === "left" && <span className="ml-1 text-small text-graphite">left</span>}
                </th>
                {byFamily
                  ? families.map((one) => <FamilyCell key={one.key} row={row} family={one} />)
                  : letters.map((char, c) => (
                      <LetterCell
                        key={char}
                        row={row}
                        char={char}
                        edge={families.some((one) => one.letters[0] === char)}
                        place={[r, c]}
                        first={r === 0 && c === 0}
                        onLook={setAt}
                      />
                    ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-2 flex min-h-6 items-start gap-6">
        <StateKey />
        <HowItStands />
        {at && <Why key={`${at.child} ${at.letter}`} at={at} rows={rows} aspect={map.aspect} />}
      </div>
    </section>
  );
}

function LetterCell(props: {
  row: Row;
  char: string;
  edge: boolean;
  place: [number, number];
  first: boolean;
  onLook: (at: At) => void;
}) {
  const { row, char, edge, place, first, onLook } = props;
  const cell: Cell | undefined = row.cells.find((one) => one.letter === char);
  const state: State = cell?.state ?? "not-started";
  const look = () => onLook({ child: row.child.id, letter: char });
  return (
    <td className={edge ? "border-l border-hair p-0" : "p-0"}>
      <Link
        to={`/children/${row.child.id}/${char}`}
        data-place={place.join(",")}
        tabIndex={first ? 0 : -1}
        aria-label={`${row.child.name}, ${char}: ${STATE_WORDS[state]}${cell?.due ? ", due again" : ""}`}
        onFocus={look}
        onMouseEnter={look}
        className="flex h-[25px] items-center justify-center rounded-sm hover:bg-ochre/60"
      >
        <StateMark state={state} due={cell?.due ?? false} />
      </Link>
    </td>
  );
}

/** How many letters of a family are secure; opens the ink of the one that needs looking at first. */
function FamilyCell({ row, family }: { row: Row; family: Family }) {
  const cell = row.families.find((one) => one.key === family.key);
  const { begun = 0, secure = 0, slipping = false, first = null } = cell ?? {};
  const size = family.letters.length;
  return (
    <td className="border-l border-hair px-1">
      <Link
        to={`/children/${row.child.id}${first ? `/${first}` : ""}`}
        aria-label={`${row.child.name}, ${family.name}: ${secure} of ${size} secure${slipping ? ", slipping" : ""}`}
        className="flex items-center gap-2 rounded-sm hover:bg-ochre/60"
      >
        <svg viewBox="0 0 100 10" preserveAspectRatio="none" className="h-[10px] flex-1" aria-hidden="true">
          <rect width={100} height={10} fill="var(--color-band)" />
          <rect width={(100 * begun) / size} height={10} fill="var(--color-pale)" />
          <rect width={(100 * secure) / size} height={10} fill="var(--color-ink)" />
        </svg>
        <span className={slipping ? "text-small text-brick" : "text-small"}>
          {secure} of {size}
          {slipping && " slipping"}
        </span>
      </Link>
    </td>
  );
}

/** The claim that a cell makes, with its numbers. */
function Why(props: { at: At; rows: Row[]; aspect: string }) {
  const { at, rows, aspect } = props;
  const query = useStanding(at.child, at.letter);
  const child = rows.find((row) => row.child.id === at.child)?.child;
  const found = query.data?.find((one) => one.aspect === aspect);
  if (!child || !found) return null;
  return (
    <p role="status" className="ml-auto text-small">
      <b>
        {child.name}, {at.letter}
      </b>{" "}
      now {found.why}
      {found.sureness && <span className="text-graphite"> ({found.sureness})</span>}
    </p>
  );
}

/** Arrow keys go from letter to letter. */
function moveFocus(event: KeyboardEvent<HTMLTableElement>) {
  const steps: Record<string, [number, number]> = {
    ArrowRight: [0, 1],
    ArrowLeft: [0, -1],
    ArrowDown: [1, 0],
    ArrowUp: [-1, 0],
  };
  const step = steps[event.key];
  const here = (event.target as HTMLElement).dataset.place;
  if (!step || !here) return;
  const [r = 0, c = 0] = here.split(",").map(Number);
  const next = event.currentTarget.querySelector<HTMLElement>(`[data-place="${r + step[0]},${c + step[1]}"]`);
  if (!next) return;
  event.preventDefault();
  event.stopPropagation();
  next.focus();
}

import { Link } from "react-router";
import { useUnitMap } from "@/api/dictations";
import { useClass } from "@/app/school";
import { LinkButton } from "@/ui/Button";
import { HowItStands } from "@/ui/HowItStands";
import { STATE_WORDS, StateKey, StateMark } from "@/ui/StateMark";
import { Empty, Loaded } from "@/ui/States";

/** Children down, sounds across by set: how each stood by what was dictated. */
export function UnitMap({ on }: { on: string | undefined }) {
  const { id } = useClass();
  const query = useUnitMap(id, on);
  return (
    <Loaded query={query} what="the sounds of the class">
      {(map) =>
        map.sets.length === 0 ? (
          <Empty title="Nothing has been dictated yet">
            <LinkButton to="/words/dictation">Make a dictation</LinkButton>
          </Empty>
        ) : (
          <section aria-label="Sounds of the class">
            {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a wide table is scrolled by keys too */}
            <div className="max-w-full overflow-x-auto" tabIndex={0} role="region" aria-label="Map of sounds">
              <table className="border-collapse">
                <caption className="sr-only">How every sound stands, child by child</caption>
                <thead>
                  <tr>
                    <td className="w-28" />
                    {map.sets.map((one) => (
                      <th
                        key={one.number}
                        scope="colgroup"
                        colSpan={one.units.length}
                        className="border-l border-hair px-1 text-left text-small font-normal text-graphite"
                      >
                        {one.number ? `set ${one.number}` : "others"}
                      </th>
                    ))}
                  </tr>
                  <tr className="border-b border-ink">
                    <td />
                    {map.sets.flatMap((one) =>
                      one.units.map((unit, i) => (
                        <th key={unit} scope="col" className={i ? "px-1" : "border-l border-hair px-1"}>
                          {unit}
                        </th>
                      )),
                    )}
                  </tr>
                </thead>
                <tbody>
                  {map.children.map((row) => (
                    <tr key={row.child.id} className="h-[26px] border-b border-hair">
                      <th scope="row" className="pr-2 text-left font-normal whitespace-nowrap">
                        <Link to={`/children/${row.child.id}`} className="hover:underline">
                          {row.child.name}
                        </Link>
                      </th>
                      {map.sets.flatMap((one) =>
                        one.units.map((unit, i) => {
                          const cell = row.cells.find((it) => it.unit === unit);
                          const state = cell?.state ?? "not-started";
                          const said = `${unit}: ${STATE_WORDS[state]}${cell ? `, ${cell.credit} right` : ""}`;
                          return (
                            <td
                              key={unit}
                              title={said}
                              className={i ? "min-w-8 px-1" : "min-w-8 border-l border-hair px-1"}
                            >
                              <span className="sr-only">{said}</span>
                              <StateMark state={state} />
                            </td>
                          );
                        }),
                      )}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <div className="mt-2 flex flex-wrap items-start gap-6">
              <StateKey />
              <HowItStands />
            </div>
          </section>
        )
      }
    </Loaded>
  );
}

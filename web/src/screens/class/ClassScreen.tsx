import { useState } from "react";
import { Link } from "react-router";
import { useClassSteps } from "@/api/classes";
import type { Aspect, ClassMap as MapOf } from "@/api/client";
import { useClassMap } from "@/api/overtime";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { Button, LINK } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { LevelChoice } from "@/ui/LevelChoice";
import { Empty, Loaded } from "@/ui/States";
import { AddChildren } from "./AddChildren";
import { Care } from "./Care";
import { ClassMap } from "./ClassMap";
import { ErasedChildren } from "./ErasedChildren";
import { TermSlider } from "./TermSlider";
import { UnitMap } from "./UnitMap";

const ASPECTS: { value: Aspect; words: string }[] = [
  { value: "all", words: "All" },
  { value: "direction", words: "Direction" },
  { value: "shape", words: "Shape" },
  { value: "size", words: "Size" },
];
const isAspect = (word: string | null): word is Aspect => ASPECTS.some((one) => one.value === word);

/** Children down, letters across by family: how each stood on a day, for one heading or all. */
export function ClassScreen() {
  const chosen = useClass();
  const { search, set } = useAddress();
  const asked = search.get("aspect");
  const aspect = isAspect(asked) ? asked : "all";
  const on = search.get("on") ?? undefined;
  const query = useClassMap(chosen.id, aspect, on);
  const [adding, setAdding] = useState(false);
  const { change } = useClassSteps();
  return (
    <>
      <PageHead crowded title={chosen.name}>
        <LevelChoice
          level={chosen.level}
          onChoose={(level) => level && change.mutate({ id: chosen.id, body: { level } })}
        />
        <Button onClick={() => setAdding(true)}>Add children</Button>
        <Link className={LINK} to="/class/settings">
          Set up
        </Link>
        <a className={LINK} href={`/api/classes/${chosen.id}/list.csv`}>
          Class list
        </a>
        <Link className={LINK} to="/records">
          Records
        </Link>
      </PageHead>
      <Loaded query={query} what="the class">
        {(map) =>
          map.children.length ? (
            <>
              <div className="mb-2 flex flex-wrap items-center gap-x-6 gap-y-1">
                <Choice
                  name="Heading"
                  options={ASPECTS}
                  chosen={aspect}
                  onChoose={(value) => set({ aspect: value === "all" ? "" : value })}
                />
                <Choice
                  name="By"
                  options={[
                    { value: "letters", words: "Letters" },
                    { value: "families", words: "Families" },
                    { value: "units", words: "Sounds" },
                  ]}
                  chosen={search.get("by") ?? "letters"}
                  onChoose={(value) => set({ by: value === "letters" ? "" : value })}
                />
                <TermSlider dates={map.dates} on={on} onChoose={(day) => set({ on: day })} />
              </div>
              {search.get("by") === "units" ? (
                <UnitMap on={on} />
              ) : (
                <ClassMap
                  map={map}
                  byFamily={search.get("by") === "families"}
                  sort={search.get("sort") === "most" ? "most" : "name"}
                  onSort={(sort) => set({ sort: sort === "most" ? sort : "" })}
                  family={search.get("family") ?? ""}
                  onFamily={(family) => set({ family })}
                />
              )}
              <CommonSlips map={map} />
            </>
          ) : (
            <Empty title="No children yet">
              <Button look="strong" onClick={() => setAdding(true)}>
                Add the first children
              </Button>
            </Empty>
          )
        }
      </Loaded>
      <ErasedChildren />
      <Care linked />
      <AddChildren open={adding} onOpenChange={setAdding} />
    </>
  );
}

/** The commonest slips of the last four weeks. */
function CommonSlips({ map }: { map: MapOf }) {
  if (!map.slips.length) return null;
  return (
    <table className="mt-6 w-full border-collapse">
      <caption className="mb-1 text-left font-bold">
        Commonest slips <span className="text-small font-normal text-graphite">in the four weeks before</span>
      </caption>
      <thead>
        <tr className="border-t-2 border-ink text-left text-small text-graphite">
          <th scope="col" className="font-normal">
            Slip
          </th>
          <th scope="col" className="font-normal">
            Letters
          </th>
          <th scope="col" className="w-24 text-right font-normal">
            Times
          </th>
          <th scope="col" className="w-[46%] pl-8 font-normal">
            Children
          </th>
        </tr>
      </thead>
      <tbody>
        {map.slips.map((slip) => (
          <tr key={slip.code} className="h-8 border-b border-hair">
            <th scope="row" className="text-left font-normal">
              {slip.name}
            </th>
            <td>{[...slip.letters].join(" ")}</td>
            <td className="text-right">{slip.times}</td>
            <td className="pl-8">{slip.children.join(", ")}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { useLevels } from "@/api/checking";
import { api, type Child, got } from "@/api/client";
import { useClassMap } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { Bead, WORDS } from "@/ui/Bead";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { LevelChoice } from "@/ui/LevelChoice";
import { Empty, Loaded } from "@/ui/States";
import { Care } from "./Care";

type MapOf = NonNullable<ReturnType<typeof useClassMap>["data"]>;

/** Children down, letters across in teaching order: how each usually stands now. */
export function ClassScreen() {
  const chosen = useClass();
  const query = useClassMap(chosen.id);
  const [adding, setAdding] = useState(false);
  const levels = useLevels();
  return (
    <>
      <PageHead title={chosen.name} sub="from the two latest rows">
        <LevelChoice
          level={chosen.level}
          onChoose={(level) => level && levels.ofClass.mutate({ id: chosen.id, level })}
        />
        <Button onClick={() => setAdding(true)}>Add a child</Button>
      </PageHead>
      <Loaded query={query} what="the class">
        {(map) =>
          map.children.length ? (
            <ClassMap map={map} />
          ) : (
            <Empty title="No children yet">
              <Button look="strong" onClick={() => setAdding(true)}>
                Add the first child
              </Button>
            </Empty>
          )
        }
      </Loaded>
      <Care />
      <AddChild open={adding} onOpenChange={setAdding} />
    </>
  );
}

function ClassMap({ map }: { map: MapOf }) {
  const { children } = useClass();
  const byId = new Map(children.map((child) => [child.id, child]));
  return (
    <table className="w-full table-fixed border-collapse">
      <caption className="sr-only">Letters of every child</caption>
      <thead>
        <tr className="border-b border-ink">
          <th scope="col" className="w-28 text-left text-small font-normal text-graphite">
            Child
          </th>
          {map.letters.map((char) => (
            <th key={char} scope="col" className="font-bold">
              {char}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {map.children.map(({ child, letters }) => (
          <tr key={child.id} className="h-7 border-b border-hair">
            <th scope="row" className="text-left font-normal whitespace-nowrap">
              <Link to={`/children/${child.id}`} className="hover:underline">
                {child.name}
              </Link>
              {byId.get(child.id)?.hand === "left" && (
                <span className="ml-1 text-small text-graphite">left</span>
              )}
            </th>
            {map.letters.map((char) => {
              const state = letters.find((one) => one.letter === char);
              return (
                <td key={char} className="p-0 text-center">
                  {state && (
                    <Link
                      to={`/children/${child.id}/${char}`}
                      aria-label={`${child.name}, ${char}: ${WORDS[state.verdict]}`}
                      title={`${char}: ${WORDS[state.verdict]}, ${state.attempts} written`}
                      className="flex justify-center rounded-sm py-1 hover:bg-ochre/50"
                    >
                      <Bead verdict={state.verdict} silent />
                    </Link>
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const FIELD = "mt-1 h-10 w-full border-b-2 border-line bg-band px-2 outline-none";

function AddChild({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { id } = useClass();
  const client = useQueryClient();
  const [first, setFirst] = useState("");
  const [initial, setInitial] = useState("");
  const [hand, setHand] = useState<Child["hand"]>("right");
  const add = useMutation({
    mutationFn: () =>
      got(
        api.POST("/api/classes/{class_id}/children", {
          params: { path: { class_id: id } },
          body: { first_name: first.trim(), initial, hand },
        }),
      ),
    onSuccess: () => {
      for (const key of ["classes", "map"]) client.invalidateQueries({ queryKey: [key] });
      setFirst("");
      setInitial("");
      onOpenChange(false);
    },
  });
  return (
    <Dialog title="Add a child" open={open} onOpenChange={onOpenChange}>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate();
        }}
      >
        <p className="text-graphite">First name and initial only: no surnames, no birthdays.</p>
        <div className="grid grid-cols-[1fr_96px] gap-4">
          <label>
            First name
            <input
              required
              maxLength={40}
              value={first}
              onChange={(e) => setFirst(e.target.value)}
              className={FIELD}
            />
          </label>
          <label>
            Initial
            <input
              required
              maxLength={1}
              value={initial}
              onChange={(e) => setInitial(e.target.value)}
              className={FIELD}
            />
          </label>
        </div>
        <fieldset className="flex gap-4">
          <legend className="float-left mr-4">Writes with the</legend>
          {(["right", "left"] as const).map((one) => (
            <label key={one} className="flex items-center gap-2">
              <input type="radio" name="hand" checked={hand === one} onChange={() => setHand(one)} />
              {one} hand
            </label>
          ))}
        </fieldset>
        {add.error && (
          <p role="alert" className="text-brick">
            {add.error.message}
          </p>
        )}
        <Button look="strong" type="submit" disabled={add.isPending}>
          Add
        </Button>
      </form>
    </Dialog>
  );
}

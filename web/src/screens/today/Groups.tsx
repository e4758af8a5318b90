import { useState } from "react";
import { Link } from "react-router";
import type { Group, GroupIn, Today } from "@/api/client";
import { useGroups } from "@/api/overtime";
import { useClass } from "@/app/school";
import { sheetAddress } from "@/screens/sheets/address";
import { Button, LinkButton } from "@/ui/Button";

const asGiven = (group: Group): GroupIn => ({
  code: group.code,
  family: group.family,
  letters: group.letters,
  child_ids: group.children.map((child) => child.id),
});

const listed = (letters: string) => [...letters].join(", ");

/** Children to take aside together; the teacher may change them, and then they stay. */
export function Groups({ today }: { today: Today }) {
  const { id } = useClass();
  const { keep, afresh } = useGroups(id);
  const [changing, setChanging] = useState(false);
  const change = (at: number, child_ids: number[]) =>
    keep.mutate(
      today.groups
        .map((group, i) => (i === at ? { ...asGiven(group), child_ids } : asGiven(group)))
        .filter((group) => group.child_ids.length),
    );
  return (
    <section aria-label="Groups" className="border-t-2 border-ink pt-2">
      <div className="flex items-center gap-4">
        <h2 className="font-bold">To take aside together</h2>
        {today.groups_kept && (
          <p className="text-small text-graphite">
            as you changed them{" "}
            <Button look="quiet" onClick={() => afresh.mutate()} disabled={afresh.isPending}>
              Work them out afresh
            </Button>
          </p>
        )}
        {today.groups.length > 0 && (
          <Button className="ml-auto" pressed={changing} onClick={() => setChanging(!changing)}>
            Change the groups
          </Button>
        )}
      </div>
      {(keep.error ?? afresh.error) && (
        <p role="alert" className="text-brick">
          {(keep.error ?? afresh.error)?.message}
        </p>
      )}
      {today.groups.length ? (
        <ol className="mt-2 space-y-3">
          {today.groups.map((group, i) => (
            <li
              key={`${group.code} ${group.family} ${group.letters}`}
              className="border-b border-hair pb-3"
              aria-label={`${group.slip} in ${listed(group.letters)}`}
            >
              <p>
                <b>{listed(group.letters)}</b> {group.slip}
                <span className="text-small text-graphite"> · {group.family}</span>
              </p>
              <p className="text-graphite">Teach again: {group.teach}.</p>
              <ul className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
                {group.children.map((child) => (
                  <li key={child.id} className="flex items-center">
                    <Link
                      to={`/children/${child.id}/${group.letters[0]}`}
                      className="underline decoration-pale underline-offset-4 hover:decoration-ink"
                    >
                      {child.name}
                    </Link>
                    {changing && (
                      <button
                        type="button"
                        aria-label={`Take ${child.name} out`}
                        className="ml-1 size-6 rounded-sm text-brick hover:bg-ochre/40"
                        onClick={() =>
                          change(
                            i,
                            group.children.map((one) => one.id).filter((one) => one !== child.id),
                          )
                        }
                      >
                        ×
                      </button>
                    )}
                  </li>
                ))}
                {changing && (
                  <li>
                    <AddChild
                      group={group}
                      onAdd={(child) => change(i, [...asGiven(group).child_ids, child])}
                    />
                  </li>
                )}
                <li className="ml-auto flex gap-2">
                  <LinkButton look="quiet" to={sheetAddress({ letters: [...group.letters].join(" ") })}>
                    Sheet for {listed(group.letters)}
                  </LinkButton>
                  <LinkButton to={`/board?text=${[...group.letters].join(" ")}`}>
                    Show {listed(group.letters)} on the board
                  </LinkButton>
                </li>
              </ul>
            </li>
          ))}
        </ol>
      ) : (
        <p className="mt-1 text-graphite">
          No two children share a slip over one family often enough in the last four weeks.
        </p>
      )}
      {(changing || !today.groups.length) && today.causes.length > 0 && (
        <AddGroup
          causes={today.causes}
          onAdd={(cause) => keep.mutate([...today.groups, cause].map(asGiven))}
        />
      )}
    </section>
  );
}

/** Another group, of those who share a slip that no group is about; children are then taken out or added. */
function AddGroup({ causes, onAdd }: { causes: Group[]; onAdd: (cause: Group) => void }) {
  return (
    <select
      aria-label="Make another group"
      value=""
      onChange={(event) => {
        const cause = causes[Number(event.target.value)];
        if (cause) onAdd(cause);
      }}
      className="mt-2 h-8 max-w-full rounded-sm border border-pale bg-paper px-1"
    >
      <option value="" disabled>
        Make another group
      </option>
      {causes.map((cause, i) => (
        <option key={`${cause.code} ${cause.family}`} value={i}>
          {listed(cause.letters)} {cause.slip}: {cause.children.map((child) => child.name).join(", ")}
        </option>
      ))}
    </select>
  );
}

function AddChild({ group, onAdd }: { group: Group; onAdd: (childId: number) => void }) {
  const { children } = useClass();
  const inside = new Set(group.children.map((child) => child.id));
  return (
    <select
      aria-label={`Add a child to ${group.slip}`}
      value=""
      onChange={(event) => onAdd(Number(event.target.value))}
      className="h-8 rounded-sm border border-pale bg-paper px-1"
    >
      <option value="" disabled>
        Add a child
      </option>
      {children
        .filter((child) => !inside.has(child.id))
        .map((child) => (
          <option key={child.id} value={child.id}>
            {child.name}
          </option>
        ))}
    </select>
  );
}

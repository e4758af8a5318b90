import { Link } from "react-router";
import type { PageSeen } from "@/api/client";
import type { usePageSteps, usePileSteps } from "@/api/pages";
import { useClass } from "@/app/school";
import { Button, LINK } from "@/ui/Button";

const plural = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;

/** "34 places written, 1 crossed out, 5 empty". */
const counts = (page: PageSeen) =>
  [
    `${plural(page.written, "place")} written`,
    page.crossed_out && `${page.crossed_out} crossed out`,
    page.empty && `${page.empty} empty`,
  ]
    .filter(Boolean)
    .join(", ");

type Props = {
  page: PageSeen;
  own: ReturnType<typeof usePageSteps>;
  steps: ReturnType<typeof usePileSteps>;
};

/** Whose page it is, on which day it was written, and what is to be done with it as a whole. */
export function OnTheWhole({ page, own, steps }: Props) {
  const { children } = useClass();
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair pb-2">
      {page.agreed ? (
        <p>
          {page.child && (
            <Link className={LINK} to={`/children/${page.child.id}`}>
              {page.child.name}
            </Link>
          )}
          , {counts(page)}: in the records.
        </p>
      ) : page.entries.length > 0 ? (
        <>
          <label className="flex items-center gap-2">
            <span className="sr-only">Whose page it is</span>
            <select
              aria-label="Whose page it is"
              value={page.child?.id ?? ""}
              onChange={(event) => own.giveTo.mutate(Number(event.target.value))}
              className="h-10 rounded-sm border border-pale bg-sheet px-2 font-bold"
            >
              {!page.child && <option value="">Whose?</option>}
              {children.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-2 text-small text-graphite">
            written on
            <input
              type="date"
              value={page.written_on}
              onChange={(event) => event.target.value && own.dateIt.mutate(event.target.value)}
              className="h-10 rounded-sm border border-pale bg-sheet px-2 text-ink"
            />
          </label>
          <p className="text-small text-graphite">{counts(page)}</p>
        </>
      ) : null}
      {page.why && <p className="font-bold text-brick">{page.why}</p>}
      <span className="ml-auto flex gap-2">
        {page.status === "repeated" && (
          <Button onClick={() => own.instead.mutate()}>Take this one instead</Button>
        )}
        {page.agreed ? (
          <Button disabled={steps.takeOut.isPending} onClick={() => steps.takeOut.mutate(page.id)}>
            Take it out again
          </Button>
        ) : (
          <Button look="quiet" onClick={() => steps.throwAway.mutate(page.id)}>
            Throw away
          </Button>
        )}
      </span>
    </div>
  );
}

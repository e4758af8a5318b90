import clsx from "clsx";
import type { PageSummary, Pile } from "@/api/client";
import { pictureOf, straightOf, type usePileSteps } from "@/api/pages";
import { useKeys } from "@/app/useKeys";
import { Button, LINK } from "@/ui/Button";

type Steps = ReturnType<typeof usePileSteps>;
type Props = {
  pile: Pile;
  pages: PageSummary[];
  chosen: PageSummary;
  onChoose: (page: PageSummary) => void;
  /** Go on to the next page that wants the teacher. */
  onNext: () => void;
  steps: Steps;
  /** How far the pile is. */
  children: string;
};

const STATUS: Record<string, string> = {
  "other-sheet": "other sheet",
  unnamed: "which sheet?",
  "not-a-sheet": "not a sheet",
  unreadable: "not read",
  repeated: "twice",
};

const nameOf = (page: PageSummary) =>
  page.status === "read" || page.status === "repeated"
    ? (page.child?.name ?? "whose?")
    : (STATUS[page.status] ?? page.status);

const stateOf = (page: PageSummary) => (page.agreed ? "in the records" : page.wants ? page.why : "read");

const takeWords = (count: number) =>
  count === 0 ? "Nothing to take in" : count === 1 ? "Take 1 page in" : `Take ${count} pages in`;

/** The pile at the foot of the page, what wants the teacher first; and letting into the records what is ready. */
export function PileStrip({ pile, pages, chosen, onChoose, onNext, steps, children }: Props) {
  const ready = pages.filter((one) => one.status === "read" && one.child && !one.agreed);
  const { agree, throwAway, bringBack } = steps;
  const take = () => ready.length && agree.mutate(ready.map((one) => one.id));
  useKeys({ t: take, n: onNext });
  const thrown = throwAway.isSuccess && !bringBack.isSuccess ? throwAway.variables : undefined;
  const problem = agree.error ?? throwAway.error ?? bringBack.error ?? steps.takeOut.error;
  return (
    <footer className="sticky bottom-0 z-10 mt-auto -mb-6 border-t border-hair bg-paper pt-2 pb-3 max-[900px]:static">
      <Problems pile={pile} steps={steps} />
      <div className="flex items-end gap-4">
        <ul aria-label="The pile" className="flex min-w-0 flex-1 gap-3 overflow-x-auto pb-1">
          {pages.map((page) => (
            <li key={page.id} className="shrink-0">
              <button
                type="button"
                aria-pressed={page.id === chosen.id}
                aria-label={`${nameOf(page)}, ${stateOf(page)}`}
                onClick={() => onChoose(page)}
                className="block w-[92px] text-left"
              >
                <span
                  className={clsx(
                    "block h-[64px] overflow-hidden rounded-sm border bg-sheet",
                    page.id === chosen.id
                      ? "border-2 border-ink"
                      : page.wants
                        ? "border-brick"
                        : "border-pale",
                  )}
                >
                  <Thumbnail page={page} />
                </span>
                <span
                  className={clsx(
                    "block truncate text-small",
                    page.wants ? "text-brick" : "text-graphite",
                    page.id === chosen.id && "font-bold",
                  )}
                >
                  {page.agreed && "✓ "}
                  {nameOf(page)}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className="flex flex-col items-end gap-1">
          {problem && (
            <p role="alert" className="text-small text-brick">
              {problem.message}
            </p>
          )}
          {thrown !== undefined && (
            <Button look="quiet" onClick={() => bringBack.mutate(thrown)}>
              Bring the page back
            </Button>
          )}
          <p className="flex items-center gap-3 text-small text-graphite">
            <span role="status">{children}</span>
            {pile.to_read > 0 && <StopReading pile={pile} steps={steps} />}
          </p>
          <div className="flex gap-2">
            <Button shortcut="N" onClick={onNext}>
              Next page
            </Button>
            <Button look="strong" shortcut="T" disabled={!ready.length || agree.isPending} onClick={take}>
              {takeWords(ready.length)}
            </Button>
          </div>
        </div>
      </div>
    </footer>
  );
}

/** Leave what is still to be read for now, or go on with it. */
export const StopReading = ({ pile, steps }: { pile: Pile; steps: Steps }) => (
  <button type="button" className={LINK} onClick={() => steps.stop.mutate(!pile.stopped)}>
    {pile.stopped ? "Go on reading" : "Stop reading"}
  </button>
);

function Thumbnail({ page }: { page: PageSummary }) {
  const source = page.has_straight
    ? straightOf(page.id)
    : page.picture_id !== null
      ? pictureOf(page.picture_id)
      : undefined;
  return source ? (
    <img src={source} alt="" loading="lazy" className="h-full w-full object-cover object-top" />
  ) : null;
}

/** Files that could not be opened, and pictures that could not be read. */
export function Problems({ pile, steps }: { pile: Pile; steps: Steps }) {
  const bad = pile.files.filter((one) => one.problem);
  const { bring, simulate, stop, dismiss } = steps;
  const error = bring.error ?? simulate.error ?? stop.error ?? dismiss.error;
  return (
    <>
      {bad.map((one) => (
        <p key={one.id} role="status" className="text-small text-brick">
          {one.name} was not read: {one.problem}.{" "}
          <button type="button" className={LINK} onClick={() => dismiss.mutate(one.id)}>
            Dismiss
          </button>
        </p>
      ))}
      {error && (
        <p role="alert" className="text-small text-brick">
          {error.message}
        </p>
      )}
    </>
  );
}

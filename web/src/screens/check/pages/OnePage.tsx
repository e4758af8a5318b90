import { useState } from "react";
import { useNavigate } from "react-router";
import type { Decision, PagePlace, PageSeen } from "@/api/client";
import { usePageSteps, type usePileSteps } from "@/api/pages";
import { useKeys } from "@/app/useKeys";
import { Decide } from "./Decide";
import { OnTheWhole } from "./OnTheWhole";
import { PageSheet } from "./PageSheet";
import { PlaceLarge } from "./PlaceLarge";
import { WhatIsIt } from "./WhatIsIt";

type Props = {
  page: PageSeen;
  steps: ReturnType<typeof usePileSteps>;
  /** The page was read once more, and is another one now. */
  onReplaced: (pageId: number) => void;
};

const firstToSee = (places: PagePlace[]) =>
  Math.max(
    places.findIndex((one) => one.wants),
    0,
  );

/** One page made straight, and one of its places large. */
export function OnePage({ page, steps, onReplaced }: Props) {
  const navigate = useNavigate();
  const own = usePageSteps(page.id);
  const [at, setAt] = useState(() => firstToSee(page.entries));
  const [acting, setActing] = useState<"letter" | "draw" | null>(null);
  const place = page.entries[at];
  const go = (index: number) => {
    setActing(null);
    setAt(Math.min(Math.max(index, 0), page.entries.length - 1));
  };
  /** The next place that is unclear, else the one after this. */
  const onwards = () => {
    const later = page.entries.findIndex((one, i) => i > at && one.wants);
    go(later >= 0 ? later : at + 1);
  };
  const open = !page.agreed;
  const decide = (decision: Decision, andOn = true) => {
    if (!place || !open) return;
    setActing(null);
    own.decide.mutate({ key: place.key, decision });
    if (andOn) onwards();
  };
  const watch = () =>
    place &&
    page.child &&
    navigate(`/check/watch?letter=${encodeURIComponent(place.expected)}&child=${page.child.id}`);
  useKeys({
    ArrowRight: () => go(at + 1),
    ArrowLeft: () => go(at - 1),
    ArrowDown: () => go(below(page.entries, at, 1)),
    ArrowUp: () => go(below(page.entries, at, -1)),
    a: () => decide({}),
    l: () => open && setActing(acting === "letter" ? null : "letter"),
    c: () => decide({ found: "crossed-out" }),
    e: () => decide({ found: "empty" }),
    d: () => open && setActing(acting === "draw" ? null : "draw"),
    b: () => place && decide({ ticked: !place.ticked }, false),
    u: () => open && own.mayUndo(page.can_undo) && own.undo.mutate(),
    o: () => void watch(),
  });
  const error =
    own.decide.error ?? own.undo.error ?? own.giveTo.error ?? own.dateIt.error ?? own.instead.error;
  return (
    <div className="grid grid-cols-[minmax(0,410px)_minmax(0,1fr)] gap-x-10 pb-3 max-[900px]:grid-cols-1">
      <PageSheet page={page} at={at} onChoose={go} />
      <div className="flex min-w-0 flex-col border-t-2 border-ink pt-2">
        <OnTheWhole page={page} own={own} steps={steps} />
        {error && (
          <p role="alert" className="text-small text-brick">
            {error.message}
          </p>
        )}
        {place ? (
          <>
            <PlaceLarge
              page={page}
              place={place}
              drawing={acting === "draw"}
              onDrawn={(strokes) => decide({ strokes }, false)}
            />
            <Decide
              place={place}
              page={page}
              acting={acting}
              setActing={setActing}
              decide={decide}
              onUndo={() => own.undo.mutate()}
              onWatch={place.letter && page.child ? watch : undefined}
            />
          </>
        ) : (
          <WhatIsIt page={page} own={own} onReplaced={onReplaced} />
        )}
      </div>
    </div>
  );
}

/** The place below or above another, nearest to it. */
function below(places: PagePlace[], at: number, by: number): number {
  const here = places[at];
  if (!here) return at;
  const left = (one: PagePlace) => one.box[0] ?? 0;
  const rows = [...new Set(places.map((one) => one.row))].sort((a, b) => (a - b) * by);
  const row = rows.find((one) => (one - here.row) * by > 0);
  const there = places.flatMap((one, i) => (one.row === row ? [{ one, i }] : []));
  there.sort((a, b) => Math.abs(left(a.one) - left(here)) - Math.abs(left(b.one) - left(here)));
  return there[0]?.i ?? at;
}

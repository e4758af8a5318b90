import clsx from "clsx";
import { useState } from "react";
import { useWatched, useWatchedSteps } from "@/api/checking";
import type { Child, Seen } from "@/api/client";
import { useFamilies, useLetter } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { useKeys } from "@/app/useKeys";
import { centred, Glyph, StartRing } from "@/line/Letter";
import { Lines, RISE, XH } from "@/line/Strip";
import { Button, LinkButton } from "@/ui/Button";
import { Empty } from "@/ui/States";
import { notesInWords, SEEN, wordsOf } from "@/ui/seen";

const NOTES = 3;

/** While children write on paper: one key logs what was seen. It counts as evidence for Direction. */
export function WatchScreen() {
  const { id, children } = useClass();
  const { search, set } = useAddress();
  const families = useFamilies(id);
  const letters = families.data?.families.flatMap((one) => one.members.map((m) => m.drawing.char)) ?? [];
  const char = search.get("letter") ?? letters[0] ?? "l";
  const [at, setAt] = useState(() =>
    Math.max(
      children.findIndex((one) => one.id === Number(search.get("child"))),
      0,
    ),
  );
  const notes = useWatched(id, char);
  const steps = useWatchedSteps(id, char);
  const child = children[at];
  const [said, setSaid] = useState("");
  const log = (seen: Seen) => {
    if (!child) return;
    setSaid(`${child.name}, ${char}: ${wordsOf(seen)}.`);
    steps.log.mutate({ child_id: child.id, letter: char, seen });
  };
  const undo = () =>
    steps.takeBack.mutate(undefined, {
      onSuccess: (taken) => setSaid(taken ? "Taken back." : "There is nothing to take back."),
    });
  const move = (by: number) => setAt((now) => Math.min(Math.max(now + by, 0), children.length - 1));
  useKeys({
    ArrowDown: () => move(1),
    ArrowUp: () => move(-1),
    ...Object.fromEntries(SEEN.map((one) => [one.key.toLowerCase(), () => log(one.seen)])),
    u: undo,
  });
  const problem = steps.log.error ?? steps.takeBack.error;
  return (
    <>
      <PageHead title="Watch on paper" sub="counts as Direction">
        <label className="flex items-center gap-2">
          Letter
          <select
            value={char}
            onChange={(event) => set({ letter: event.target.value })}
            className="h-10 rounded-sm border border-pale bg-paper px-2 text-large"
          >
            {letters.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
        <LinkButton look="quiet" to="/check">
          Back to the queue
        </LinkButton>
      </PageHead>
      {child ? (
        <div className="grid flex-1 grid-cols-[1fr_300px] gap-8 max-[900px]:grid-cols-1">
          <ul aria-label="Children" className="columns-2 gap-8 border-t-2 border-ink">
            {children.map((one, i) => (
              <ChildLine
                key={one.id}
                child={one}
                chosen={i === at}
                notes={notes.data?.filter((note) => note.child_id === one.id) ?? []}
                onChoose={() => setAt(i)}
              />
            ))}
          </ul>
          <aside aria-label="What was seen" className="border-t-2 border-ink pt-2">
            <Model char={char} />
            <h2 className="mt-2 mb-2 text-large font-bold">{child.name}</h2>
            <div className="flex flex-col gap-2">
              {SEEN.map((one) => (
                <Button
                  key={one.seen}
                  shortcut={one.key}
                  onClick={() => log(one.seen)}
                  className="!justify-between"
                >
                  {one.words}
                </Button>
              ))}
              <Button look="quiet" shortcut="U" disabled={!notes.data?.length} onClick={undo}>
                Undo the latest
              </Button>
            </div>
            <p role="status" className="mt-2 text-small text-graphite">
              {said}
            </p>
            {problem && (
              <p role="alert" className="text-small text-brick">
                {problem.message}
              </p>
            )}
          </aside>
        </div>
      ) : (
        <Empty title="No children yet">
          <LinkButton to="/class">Add the first child</LinkButton>
        </Empty>
      )}
    </>
  );
}

function Model({ char }: { char: string }) {
  const { id } = useClass();
  const { data } = useLetter(char, id);
  return (
    <svg
      viewBox={`-200 ${RISE - 16} 400 ${3 * XH + 32}`}
      className="h-36 w-full"
      role="img"
      aria-label={`The model of ${char}`}
    >
      <Lines from={-200} to={200} />
      {data && (
        <>
          <Glyph letter={data} x={centred(data, 0)} />
          <g transform={`translate(${centred(data, 0)} 0)`}>
            {data.strokes.map((stroke, i) => (
              <StartRing key={stroke.path} stroke={stroke} number={i + 1} />
            ))}
          </g>
        </>
      )}
    </svg>
  );
}

type Note = { id: number; seen: Seen; at: string };

function ChildLine(props: { child: Child; chosen: boolean; notes: Note[]; onChoose: () => void }) {
  const { child, chosen, notes, onChoose } = props;
  return (
    <li className="break-inside-avoid border-b border-hair">
      <button
        type="button"
        aria-pressed={chosen}
        onClick={onChoose}
        className={clsx(
          "grid h-12 w-full grid-cols-[88px_1fr] items-center gap-2 rounded-sm px-1 text-left",
          chosen ? "bg-ochre font-bold" : "hover:bg-ochre/35",
        )}
      >
        <span>{child.name}</span>
        <span className="truncate text-small font-normal text-graphite">{notesInWords(notes, NOTES)}</span>
      </button>
    </li>
  );
}

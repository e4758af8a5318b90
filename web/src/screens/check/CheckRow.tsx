import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useExplained, useNextInQueue } from "@/api/checking";
import type { Attempt, Finding, LetterModel, MarkVerdict, MoveInk, Row, Support } from "@/api/client";
import { useLetter, useRow, useRowSteps } from "@/api/queries";
import { momentFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { useKeys } from "@/app/useKeys";
import { useClock } from "@/ink/useClock";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Empty, Loaded } from "@/ui/States";
import { FromPaper, Readings, Replay, writingTime } from "./Below";
import { Bests } from "./Bests";
import { Headings } from "./Headings";
import { Moves } from "./Moves";
import { MARKS } from "./marks";
import { NextStep } from "./NextStep";
import { type GhostLook, RowStrip } from "./RowStrip";
import { useQueueOrder } from "./useQueueOrder";

const when = momentFormat({ weekday: "long", day: "numeric", month: "long" });
const SUPPORTS: Support[] = ["trace", "finish", "ring", "alone"];

/** How the row was made: "2 traced, 1 finished, 3 alone". */
function made(row: Row): string {
  const words = { trace: "traced", finish: "finished", ring: "from a ring", alone: "alone" };
  const counts = SUPPORTS.map(
    (one) => [row.attempts.filter((a) => a.support === one).length, words[one]] as const,
  );
  return counts.flatMap(([count, word]) => (count ? [`${count} ${word}`] : [])).join(", ");
}

/** One row, looked at: the ink first, then what is known about it. */
export function CheckRow() {
  const rowId = Number(useParams().rowId);
  const query = useRow(rowId);
  const { id } = useClass();
  const letter = useLetter(query.data?.letter ?? "l", id);
  return (
    <Loaded query={query} what="the row">
      {(row) => (
        <>
          <PageHead
            title={`${row.child.name}, letter ${row.letter}`}
            sub={`${made(row)} · ${when(row.started_at)}`}
          >
            <Neighbours row={row} />
          </PageHead>
          {row.attempts.length ? (
            <Loaded query={letter} what="the model">
              {(model) => model.char === row.letter && <Looking key={row.id} row={row} letter={model} />}
            </Loaded>
          ) : (
            <Empty title="Nothing has been written in this row yet">
              <LinkButton to={`/write/${row.id}`}>Go on with the row</LinkButton>
            </Empty>
          )}
        </>
      )}
    </Loaded>
  );
}

function Neighbours({ row }: { row: Row }) {
  return (
    <nav aria-label={`Rows of ${row.child.first_name}`} className="flex gap-4">
      <LinkButton look="quiet" to={`/children/${row.child.id}/${row.letter}`}>
        Every {row.letter}
      </LinkButton>
      {row.previous_row !== null && (
        <LinkButton look="quiet" to={`/check/${row.previous_row}`}>
          Row before
        </LinkButton>
      )}
      {row.next_row !== null && (
        <LinkButton look="quiet" to={`/check/${row.next_row}`}>
          Row after
        </LinkButton>
      )}
    </nav>
  );
}

const mostTelling = ({ result }: Attempt): Finding | undefined =>
  result?.findings[result.tells_most ?? Number.POSITIVE_INFINITY];

type LookingProps = { row: Row; letter: LetterModel };

function Looking({ row, letter }: LookingProps) {
  const { search, set } = useAddress();
  const inRow = (index: number) => Math.min(Math.max(index, 0), row.attempts.length - 1);
  // held here, not only in the address, so that the next key acts on the attempt this one went to
  const [at, setAt] = useState(() => inRow(Number(search.get("attempt") ?? row.to_see + 1) - 1));
  const chosen = row.attempts[at];
  const go = (index: number) => {
    setAt(inRow(index));
    set({ attempt: inRow(index) + 1 });
  };
  const [ghost, setGhost] = useState<GhostLook>("as written");
  const held = { row, letter, at, go, ghost, setGhost };
  return chosen && <Marking key={chosen.id} {...held} chosen={chosen} />;
}

const GHOSTS: { value: GhostLook; words: string }[] = [
  { value: "as written", words: "At its place" },
  { value: "laid on", words: "Laid on" },
  { value: "off", words: "Off" },
];

type MarkingProps = LookingProps & {
  chosen: Attempt;
  at: number;
  go: (index: number) => void;
  ghost: GhostLook;
  setGhost: (look: GhostLook) => void;
};

function Marking({ row, letter, chosen, at, go, ghost, setGhost }: MarkingProps) {
  const navigate = useNavigate();
  const steps = useRowSteps(row.id);
  const [pointed, setPointed] = useState<Finding | undefined>(mostTelling(chosen));
  const clock = useClock(Math.max(writingTime(chosen), letter.duration_ms), 1);

  const mark = (verdict: MarkVerdict) =>
    steps.edit.mutate({ attempt_ids: [chosen.id], mark: chosen.mark === verdict ? "none" : verdict });
  const best = () => steps.edit.mutate({ attempt_ids: [chosen.id], teachers_best: !chosen.teachers_best });
  const cross = () => steps.edit.mutate({ attempt_ids: [chosen.id], crossed_out: !chosen.crossed_out });
  const [order] = useQueueOrder();
  const findNext = useNextInQueue(row.child.class_id, order);
  const nextRow = async () => {
    const next = await findNext(row.id);
    navigate(next === null ? "/check" : `/check/${next}`);
  };
  const { data: explained } = useExplained(row.id, chosen.id);
  const [lit, setLit] = useState<MoveInk | undefined>();
  const watch = () => void navigate(`/check/watch?letter=${row.letter}&child=${row.child.id}`);
  useKeysOf({
    go,
    at,
    mark,
    best,
    cross,
    nextRow,
    agree: steps.agree.mutate,
    undo: () => steps.mayUndo(row.can_undo) && steps.undo.mutate(),
    replay: clock.repeat,
    model: () =>
      setGhost(GHOSTS[(GHOSTS.findIndex((one) => one.value === ghost) + 1) % GHOSTS.length]?.value ?? "off"),
    watch,
  });
  const problem = steps.edit.error ?? steps.agree.error ?? steps.undo.error;
  return (
    <div className="flex flex-1 flex-col gap-3">
      <RowStrip
        row={row}
        letter={letter}
        chosen={chosen}
        onChoose={(one) => go(row.attempts.indexOf(one))}
        pointed={pointed}
        explained={explained}
        lit={lit}
        ghost={ghost}
      />
      <div className="-mt-3">
        <Moves explained={explained} lit={lit} onLight={setLit} />
        <div className="flex flex-wrap items-center gap-x-6 gap-y-1">
          <Choice name="Model" options={GHOSTS} chosen={ghost} onChoose={setGhost} shown />
          <ul aria-label="The row as a whole" className="min-w-0 flex-1 truncate text-right">
            {row.findings.map((one) => (
              <li key={one.code} className={one.severity === "fix" ? "font-bold" : undefined}>
                {one.teacher}
              </li>
            ))}
          </ul>
        </div>
      </div>
      <Headings attempt={chosen} pointed={pointed} onPoint={setPointed} />
      <div className="mt-auto grid grid-cols-[auto_1fr_auto] gap-10 border-t border-hair pt-2 max-[1100px]:gap-4 max-[900px]:grid-cols-1">
        {chosen.paper ? (
          <FromPaper paper={chosen.paper} onWatch={watch} />
        ) : (
          <Replay attempt={chosen} row={row} letter={letter} clock={clock} />
        )}
        <Readings explained={explained} />
        <Bests row={row} onChoose={(one) => go(row.attempts.indexOf(one))} />
      </div>
      <div className="sticky bottom-0 -mb-6 flex flex-wrap max-[900px]:static items-center justify-end gap-2 border-t border-hair bg-paper py-3">
        <NextStep row={row} />
        {problem && (
          <p role="alert" className="text-small text-brick">
            {problem.message}
          </p>
        )}
        {MARKS.map(({ verdict, name, key }) => (
          <Button
            key={verdict}
            aria-label={`Mark as ${verdict}`}
            pressed={chosen.mark === verdict}
            shortcut={key}
            onClick={() => mark(verdict)}
          >
            {name}
          </Button>
        ))}
        <Button aria-label="Mark as your best one" pressed={chosen.teachers_best} shortcut="B" onClick={best}>
          Best
        </Button>
        <Button pressed={chosen.crossed_out} shortcut="C" onClick={cross}>
          Cross out
        </Button>
        <Button shortcut="U" disabled={!row.can_undo} onClick={() => steps.undo.mutate()}>
          Undo
        </Button>
        <Button
          look="strong"
          aria-label="Agree with the row"
          shortcut="A"
          onClick={() => steps.agree.mutate()}
        >
          Agree
        </Button>
        <Button aria-label="Next row that waits" shortcut="N" onClick={nextRow}>
          Next
        </Button>
      </div>
    </div>
  );
}

type Acts = {
  at: number;
  go: (index: number) => void;
  mark: (verdict: MarkVerdict) => void;
  best: () => void;
  cross: () => void;
  nextRow: () => Promise<void>;
  agree: () => void;
  undo: () => void;
  replay: () => void;
  model: () => void;
  watch: () => void;
};

function useKeysOf(acts: Acts) {
  useKeys({
    ArrowRight: () => acts.go(acts.at + 1),
    ArrowLeft: () => acts.go(acts.at - 1),
    ...Object.fromEntries(MARKS.map(({ verdict, key }) => [key, () => acts.mark(verdict)])),
    b: acts.best,
    c: acts.cross,
    a: acts.agree,
    u: acts.undo,
    r: acts.replay,
    n: acts.nextRow,
    m: acts.model,
    o: acts.watch,
  });
}

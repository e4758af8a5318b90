import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Attempt, Finding, LetterModel, MarkVerdict, Row, Support } from "@/api/client";
import { useLetter, useRow, useRowSteps } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { useClock } from "@/ink/useClock";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { OtherRows, Readings, Replay, writingTime } from "./Below";
import { Headings } from "./Headings";
import { RowStrip } from "./RowStrip";

const MARKS: { verdict: MarkVerdict; name: string; key: string }[] = [
  { verdict: "secure", name: "Secure", key: "1" },
  { verdict: "near", name: "Near", key: "2" },
  { verdict: "fix", name: "Fix", key: "3" },
];
const when = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long" });
const SUPPORTS: Support[] = ["trace", "finish", "alone"];

/** How the row was made: "2 traced, 1 finished, 3 alone". */
function made(row: Row): string {
  const words = { trace: "traced", finish: "finished", alone: "alone" };
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
            sub={`${made(row)} · ${when.format(new Date(row.started_at))}`}
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

const mostTelling = (attempt: Attempt): Finding | undefined =>
  attempt.result?.findings.find((one) => one.severity === "fix" && one.code !== "unreadable") ??
  attempt.result?.findings.find((one) => one.severity === "near");

type LookingProps = { row: Row; letter: LetterModel };

function Looking({ row, letter }: LookingProps) {
  const [search, setSearch] = useSearchParams();
  const inRow = (index: number) => Math.min(Math.max(index, 0), row.attempts.length - 1);
  // held here, not only in the address, so that the next key acts on the attempt this one went to
  const [at, setAt] = useState(() => inRow(Number(search.get("attempt") ?? row.to_see + 1) - 1));
  const chosen = row.attempts[at];
  const go = (index: number) => {
    setAt(inRow(index));
    setSearch({ attempt: String(inRow(index) + 1) }, { replace: true });
  };
  return chosen && <Marking key={chosen.id} row={row} letter={letter} chosen={chosen} at={at} go={go} />;
}

type MarkingProps = LookingProps & { chosen: Attempt; at: number; go: (index: number) => void };

function Marking({ row, letter, chosen, at, go }: MarkingProps) {
  const navigate = useNavigate();
  const steps = useRowSteps(row.id);
  const [pointed, setPointed] = useState<Finding | undefined>(mostTelling(chosen));
  const clock = useClock(Math.max(writingTime(chosen), letter.duration_ms), 1);

  const mark = (verdict: MarkVerdict) =>
    steps.edit.mutate({ attempt_ids: [chosen.id], mark: chosen.mark === verdict ? "none" : verdict });
  const best = () => steps.edit.mutate({ attempt_ids: [chosen.id], best: !chosen.best });
  const cross = () => steps.edit.mutate({ attempt_ids: [chosen.id], crossed_out: !chosen.crossed_out });
  const nextRow = () => navigate(row.previous_row === null ? "/check" : `/check/${row.previous_row}`);
  useKeysOf({
    go,
    at,
    mark,
    best,
    cross,
    nextRow,
    agree: steps.agree.mutate,
    undo: () => row.can_undo && steps.undo.mutate(),
    replay: clock.repeat,
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
      />
      <Headings attempt={chosen} pointed={pointed} onPoint={setPointed} />
      <div className="mt-auto grid grid-cols-[auto_1fr_1fr] gap-8 border-t border-hair pt-3 max-[1100px]:gap-5">
        <Replay attempt={chosen} row={row} letter={letter} clock={clock} />
        <Readings attempt={chosen} />
        <OtherRows row={row} />
      </div>
      <div className="sticky bottom-0 -mb-6 flex items-center justify-end gap-2 border-t border-hair bg-paper py-3">
        <div className="mr-auto min-w-0 flex-1">
          <p className="text-small text-graphite">Next time, for {row.child.first_name}</p>
          <p>“{row.next_time}”</p>
          {problem && (
            <p role="alert" className="text-small text-brick">
              {problem.message}
            </p>
          )}
        </div>
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
        <Button aria-label="Mark as the best one" pressed={chosen.best} shortcut="B" onClick={best}>
          Best
        </Button>
        <Button pressed={chosen.crossed_out} shortcut="C" onClick={cross}>
          Cross out
        </Button>
        <Button shortcut="U" disabled={!row.can_undo} onClick={() => steps.undo.mutate()}>
          Undo
        </Button>
        <Button look="strong" shortcut="A" onClick={() => steps.agree.mutate()}>
          Agree with the row
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
  nextRow: () => void;
  agree: () => void;
  undo: () => void;
  replay: () => void;
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
  });
}

import { useEffect, useSyncExternalStore } from "react";
import type { Row } from "@/api/client";
import { useRowSteps } from "@/api/queries";
import { shelf, waitingFor, watch } from "@/ink/outbox";
import { Button, LinkButton } from "@/ui/Button";
import { TeacherOnly } from "./TeacherOnly";
import { useStartRow } from "./useStartRow";

/** The row is full: the child picks the best one, then hears one thing to try next. */
export function RowEnd({ row }: { row: Row }) {
  const { finish } = useRowSteps(row.id);
  const picked = row.attempts.some((attempt) => attempt.best);
  const { mutate } = finish;
  const again = useStartRow({ child_id: row.child.id, letter: row.letter });
  useSyncExternalStore(watch, shelf);
  const allKept = waitingFor(row).length === 0; // finished sooner, the answer would lack the last letter
  useEffect(() => {
    if (!row.finished && allKept) mutate();
  }, [row.finished, allKept, mutate]);
  return (
    <footer className="flex min-h-32 shrink-0 flex-wrap items-center gap-x-6 gap-y-2 px-10 py-2 max-[1100px]:px-4">
      <div className="mr-auto" role="status">
        <p className={picked ? "text-small text-graphite" : "text-huge"}>
          {picked ? "Next time" : "Touch your best one."}
        </p>
        {picked && <p className="text-title">{row.next_time}</p>}
      </div>
      <TeacherOnly>
        <LinkButton big to={`/check/${row.id}`}>
          Look at it together
        </LinkButton>
        <LinkButton big to="/write">
          Leave
        </LinkButton>
      </TeacherOnly>
      {picked && (
        <Button big look="strong" onClick={() => again.mutate()} disabled={again.isPending}>
          Another row
        </Button>
      )}
    </footer>
  );
}

import { useEffect } from "react";
import type { Row } from "@/api/client";
import { useRowSteps } from "@/api/queries";
import { LinkButton } from "@/ui/Button";

/** The row is full: the child picks the best one, then hears one thing to try next. */
export function RowEnd({ row }: { row: Row }) {
  const { finish } = useRowSteps(row.id);
  const picked = row.attempts.some((attempt) => attempt.best);
  const { mutate } = finish;
  useEffect(() => {
    if (!row.finished) mutate();
  }, [row.finished, mutate]);
  return (
    <footer className="flex h-32 shrink-0 items-center gap-6 px-10">
      <div className="mr-auto" role="status">
        <p className={picked ? "text-small text-graphite" : "text-huge"}>
          {picked ? "Next time" : "Touch your best one."}
        </p>
        {picked && <p className="text-title">{row.next_time}</p>}
      </div>
      <LinkButton look="quiet" to={`/check/${row.id}`}>
        Look at it with your teacher
      </LinkButton>
      <LinkButton look="strong" big to="/write">
        Done
      </LinkButton>
    </footer>
  );
}

import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Problem } from "@/api/client";
import { Button } from "./Button";

/** An empty ruled strip with words on it: nothing here yet, being fetched, or gone wrong. */
function Blank({ children, alert = false }: { children: ReactNode; alert?: boolean }) {
  return (
    <div className="my-8" role={alert ? "alert" : "status"}>
      <div className="border-t border-dashed border-faint pt-10" />
      <div className="border-t border-faint bg-band px-4 py-6">{children}</div>
      <div className="border-t-2 border-line pb-10" />
      <div className="border-t border-dashed border-faint" />
    </div>
  );
}

export const Loading = ({ what }: { what: string }) => (
  <Blank>
    <p className="text-graphite">Fetching {what}…</p>
  </Blank>
);

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Blank>
      <p className="font-bold">{title}</p>
      <div className="mt-1 flex flex-wrap items-center gap-4 text-graphite">{children}</div>
    </Blank>
  );
}

export function Trouble({ error, again }: { error: Error; again?: () => void }) {
  const unreachable = error instanceof Problem && error.status === 0;
  return (
    <Blank alert>
      <p className="font-bold">{unreachable ? "First Loop is not answering" : "This could not be shown"}</p>
      <p className="mt-1 text-graphite">{error.message}</p>
      {again && (
        <Button className="mt-3" onClick={again}>
          Try again
        </Button>
      )}
    </Blank>
  );
}

/** Shows a query's data once it is there, and says what is going on until then. */
export function Loaded<T>(props: {
  query: UseQueryResult<T>;
  what: string;
  children: (data: T) => ReactNode;
}) {
  const { query, what, children } = props;
  if (query.data !== undefined) return children(query.data);
  if (query.error) return <Trouble error={query.error} again={() => query.refetch()} />;
  return <Loading what={what} />;
}

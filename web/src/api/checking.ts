import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import {
  api,
  type Edit,
  got,
  type Queue,
  type QueueGroup,
  type QueueOrder,
  type QueueRow,
  type Row,
  type Seen,
} from "./client";
import { keys, wentStale } from "./keys";
import { showNewest } from "./newest";

const queueQuery = (classId: number, order: QueueOrder) => ({
  queryKey: keys.queue(classId, order),
  queryFn: () =>
    got(
      api.GET("/api/classes/{class_id}/queue", {
        params: { path: { class_id: classId }, query: { order } },
      }),
    ),
});

export const rowsOf = (groups: QueueGroup[]): QueueRow[] => groups.flatMap((group) => group.rows);

export const useQueue = (classId: number, order: QueueOrder) => useQuery(queueQuery(classId, order));

/** The row that waits next, once marks just made are in the records; null when none does. */
export function useNextInQueue(classId: number, order: QueueOrder) {
  const client = useQueryClient();
  return async (rowId: number): Promise<number | null> => {
    const query = queueQuery(classId, order);
    const before = rowsOf(client.getQueryData<Queue>(query.queryKey)?.groups ?? []).map((row) => row.id);
    const now = await client.fetchQuery({ ...query, staleTime: 0 });
    const waiting = rowsOf(now.groups)
      .map((row) => row.id)
      .filter((id) => id !== rowId);
    const later = before.slice(before.indexOf(rowId) + 1);
    return later.find((id) => waiting.includes(id)) ?? waiting[0] ?? null;
  };
}

/**
 * What is done in the queue. The queue itself is not fetched anew at once: its rows stay under the teacher's
 * hand, marked, until she comes back to it.
 */
export function useQueueSteps(classId: number) {
  const client = useQueryClient();
  const onSettled = () => wentStale(client, "queueMarks");
  const path = (rowId: number) => ({ params: { path: { row_id: rowId } } });
  return {
    edit: useMutation({
      mutationFn: ({ rowId, body }: { rowId: number; body: Edit }) =>
        got(api.POST("/api/rows/{row_id}/edits", { ...path(rowId), body })),
      onSettled,
    }),
    agree: useMutation({
      mutationFn: (rowIds: number[]) =>
        got(
          api.POST("/api/classes/{class_id}/queue/agree", {
            params: { path: { class_id: classId } },
            body: { row_ids: rowIds },
          }),
        ),
      onSettled,
    }),
    undo: useMutation({
      mutationFn: async (rowIds: number[]) => {
        const rows: Row[] = [];
        for (const id of rowIds) rows.push(await got(api.POST("/api/rows/{row_id}/undo", path(id))));
        return rows;
      },
      onSettled,
    }),
  };
}

export const useExplained = (rowId: number, attemptId: number) =>
  useQuery({
    queryKey: keys.explained(rowId, attemptId),
    queryFn: () =>
      got(
        api.GET("/api/rows/{row_id}/attempts/{attempt_id}/explained", {
          params: { path: { row_id: rowId, attempt_id: attemptId } },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

export function useChooseNextStep(rowId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (code: string | null) =>
      got(
        api.PUT("/api/rows/{row_id}/next-step", {
          params: { path: { row_id: rowId } },
          body: { code },
        }),
      ),
    onSuccess: (row: Row) => showNewest(client, keys.row(rowId), row),
  });
}

export const useTrust = (classId: number) =>
  useQuery({
    queryKey: keys.trust(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/trust", { params: { path: { class_id: classId } } })),
  });

export function useTolerance(classId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ code, tolerance }: { code: string; tolerance: number | null }) =>
      got(
        api.PUT("/api/classes/{class_id}/tolerances/{code}", {
          params: { path: { class_id: classId, code } },
          body: { tolerance },
        }),
      ),
    onSuccess: (trust) => showNewest(client, keys.trust(classId), trust),
  });
}

const watchedQuery = (classId: number, letter: string) => ({
  queryKey: keys.watched(classId, letter),
  queryFn: () =>
    got(
      api.GET("/api/classes/{class_id}/watched", {
        params: { path: { class_id: classId }, query: { letter } },
      }),
    ),
});

export const useWatched = (classId: number, letter: string) => useQuery(watchedQuery(classId, letter));

/** What is noted of a letter while children write it, in the order in which it was asked for. */
export function useWatchedSteps(classId: number, letter: string) {
  const client = useQueryClient();
  const step = { scope: { id: `watched ${classId}` }, onSuccess: () => wentStale(client, "watched") };
  return {
    log: useMutation({
      mutationFn: (body: { child_id: number; letter: string; seen: Seen }) =>
        got(api.POST("/api/watched", { body })),
      ...step,
    }),
    /** The note that is the latest when its turn comes: one on its way is written first. */
    takeBack: useMutation({
      mutationFn: async () => {
        const [latest] = await client.fetchQuery({ ...watchedQuery(classId, letter), staleTime: 0 });
        if (latest)
          await got(api.DELETE("/api/watched/{note_id}", { params: { path: { note_id: latest.id } } }));
        return latest !== undefined;
      },
      ...step,
    }),
  };
}

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Decision, got, type PageSeen, Problem, type SheetPage, type Writing } from "./client";
import { keys, wentStale } from "./keys";
import { mayTakeBack } from "./newest";

const READING_MS = 400;
const WAITING_MS = 4000; // a scanner may write into its folder at any time

export const usePile = (classId: number) =>
  useQuery({
    queryKey: keys.pile(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/pages", { params: { path: { class_id: classId } } })),
    refetchInterval: ({ state }) => (state.data?.to_read && !state.data.stopped ? READING_MS : WAITING_MS),
  });

export const usePage = (pageId: number | undefined) =>
  useQuery({
    queryKey: keys.page(pageId ?? 0),
    queryFn: () => got(api.GET("/api/pages/{page_id}", { params: { path: { page_id: pageId ?? 0 } } })),
    enabled: pageId !== undefined,
    placeholderData: keepPreviousData,
  });

export const straightOf = (pageId: number) => `/api/pages/${pageId}/straight.jpg`;
export const pictureOf = (pictureId: number) => `/api/pictures/${pictureId}.jpg`;

/** What is wrong with an answer, in the server's own words. */
async function said(answer: Response): Promise<string> {
  const body: unknown = await answer.json().catch(() => null);
  const detail = (body as { detail?: unknown } | null)?.detail;
  return typeof detail === "string" ? detail : "The file could not be taken in. It is as it was.";
}

async function bring(classId: number, file: File) {
  const to = `/api/classes/${classId}/pages?name=${encodeURIComponent(file.name)}`;
  const answer = await fetch(to, {
    method: "POST",
    body: file,
    headers: { "Content-Type": "application/octet-stream" },
  }).catch(() => null);
  if (!answer) throw new Problem(0, "First Loop is not answering. The file is as it was.");
  if (!answer.ok) throw new Problem(answer.status, `${file.name}: ${await said(answer)}`);
}

/** Bring files in one after the other; what is wrong with some does not keep the others out. */
async function bringAll(classId: number, files: File[]) {
  const problems: string[] = [];
  for (const file of files) {
    await bring(classId, file).catch((problem: Error) => problems.push(problem.message));
  }
  if (problems.length) throw new Problem(409, problems.join(" "));
}

/** What is done with the whole pile. */
export function usePileSteps(classId: number) {
  const client = useQueryClient();
  const onSettled = () => wentStale(client, "pages");
  const inRecords = () => {
    wentStale(client, "pages");
    wentStale(client, "written");
  };
  const of = { path: { class_id: classId } };
  return {
    bring: useMutation({ mutationFn: (files: File[]) => bringAll(classId, files), onSettled }),
    simulate: useMutation({
      mutationFn: () => got(api.POST("/api/classes/{class_id}/pages/simulated", { params: of })),
      onSettled,
    }),
    stop: useMutation({
      mutationFn: (stopped: boolean) =>
        got(api.PUT("/api/classes/{class_id}/pages/stopped", { params: of, body: { stopped } })),
      onSettled,
    }),
    dismiss: useMutation({
      mutationFn: (fileId: number) =>
        got(api.DELETE("/api/brought/{file_id}", { params: { path: { file_id: fileId } } })),
      onSettled,
    }),
    agree: useMutation({
      mutationFn: (page_ids: number[]) => got(api.POST("/api/agree-with-pages", { body: { page_ids } })),
      onSettled: inRecords,
    }),
    takeOut: useMutation({
      mutationFn: (pageId: number) =>
        got(api.POST("/api/pages/{page_id}/out", { params: { path: { page_id: pageId } } })),
      onSettled: inRecords,
    }),
    throwAway: useMutation({
      mutationFn: (pageId: number) =>
        got(api.DELETE("/api/pages/{page_id}", { params: { path: { page_id: pageId } } })),
      onSettled,
    }),
    bringBack: useMutation({
      mutationFn: (pageId: number) =>
        got(api.POST("/api/pages/{page_id}/back", { params: { path: { page_id: pageId } } })),
      onSettled,
    }),
  };
}

/** What is decided about one page; steps are done in the order in which they were asked for. */
export function usePageSteps(pageId: number) {
  const client = useQueryClient();
  const params = { path: { page_id: pageId } };
  const step = {
    scope: { id: `page ${pageId}` },
    onSuccess: (now: PageSeen) => {
      client.setQueryData(keys.page(now.id), now);
    },
    onSettled: () => wentStale(client, "pages"),
  };
  const canBeUndone = { ...step, mutationKey: keys.page(pageId) };
  /** The page is read once more, and is another one then. */
  const replaced = { ...step, onSettled: () => wentStale(client, "pageReplaced") };
  return {
    decide: useMutation({
      mutationFn: ({ key, decision }: { key: string; decision: Decision }) =>
        got(
          api.PUT("/api/pages/{page_id}/entries/{key}", {
            params: { path: { page_id: pageId, key } },
            body: decision,
          }),
        ),
      ...canBeUndone,
    }),
    mayUndo: (known: boolean) => mayTakeBack(client, keys.page(pageId), known),
    undo: useMutation({
      mutationFn: () => got(api.POST("/api/pages/{page_id}/undo", { params })),
      ...step,
    }),
    giveTo: useMutation({
      mutationFn: (child_id: number) =>
        got(api.PUT("/api/pages/{page_id}/child", { params, body: { child_id } })),
      ...canBeUndone,
    }),
    dateIt: useMutation({
      mutationFn: (day: string) => got(api.PUT("/api/pages/{page_id}/written-on", { params, body: { day } })),
      ...canBeUndone,
    }),
    instead: useMutation({
      mutationFn: () => got(api.POST("/api/pages/{page_id}/instead", { params })),
      ...step,
    }),
    write: useMutation({
      mutationFn: (body: Writing) => got(api.PUT("/api/pages/{page_id}/writing", { params, body })),
      ...replaced,
    }),
    readAs: useMutation({
      mutationFn: (body: SheetPage) => got(api.PUT("/api/pages/{page_id}/sheet", { params, body })),
      ...replaced,
    }),
  };
}

/** Where the paper and its rows seem to be in a picture; for corners that a person has set, or none. */
export const useProposal = (pageId: number, corners_px: number[][] | null) =>
  useQuery({
    queryKey: keys.proposal(pageId, corners_px),
    queryFn: () =>
      got(
        api.POST("/api/pages/{page_id}/proposal", {
          params: { path: { page_id: pageId } },
          body: { corners_px },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const flatOf = (pageId: number, corners: number[][]) =>
  `/api/pages/${pageId}/flat.jpg?corners=${corners
    .flat()
    .map((one) => one.toFixed(1))
    .join(",")}`;

export const usePicturesKept = () =>
  useQuery({ queryKey: keys.picturesKept(), queryFn: () => got(api.GET("/api/records/pictures")) });

export function useKeepPictures() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (days: number) => got(api.PUT("/api/records/pictures", { body: { days } })),
    onSuccess: (now) => client.setQueryData(keys.picturesKept(), now),
  });
}

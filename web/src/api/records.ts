import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got, Problem } from "./client";
import { keys } from "./keys";
import type { components } from "./schema";

type Backup = components["schemas"]["BackupOut"];
type Restored = components["schemas"]["RestoredOut"];
type Child = components["schemas"]["ChildView"];

export const useCounts = () =>
  useQuery({ queryKey: keys.counts(), queryFn: () => got(api.GET("/api/records")) });

export const useArchived = () =>
  useQuery({
    queryKey: keys.archived(),
    queryFn: () => got(api.GET("/api/classes", { params: { query: { archived: true } } })),
  });

export const useTimeZone = () =>
  useQuery({ queryKey: keys.timeZone(), queryFn: () => got(api.GET("/api/records/time-zone")) });

/** Days of writing that could not be worked out. */
export const useSetAside = () =>
  useQuery({ queryKey: keys.setAside(), queryFn: () => got(api.GET("/api/records/set-aside")) });

/** Who opened, changed, took out and erased what, the latest first. */
export const useAudit = () =>
  useQuery({
    queryKey: keys.audit(),
    queryFn: () => got(api.GET("/api/records/audit", { params: { query: { limit: 200 } } })),
  });

/** For how long children are kept once their class is put away. */
export const useRetention = () =>
  useQuery({
    queryKey: keys.retention(),
    queryFn: () => got(api.GET("/api/records/kept-after-a-year")),
  });

export function useKeepAfterAYear() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (days: number | null) => got(api.PUT("/api/records/kept-after-a-year", { body: { days } })),
    onSuccess: (now) => client.setQueryData(keys.retention(), now),
  });
}

/** A file, with the passphrase it is closed with; none for one that is not. */
export type Brought = { file: File; passphrase: string };

/** Send a file as the whole body; the typed client would make JSON of it. */
async function send<T>(path: string, file: File, passphrase = ""): Promise<T> {
  const answer = await fetch(path, {
    method: "POST",
    body: file,
    headers: {
      "Content-Type": "application/zip",
      ...(passphrase && { "Backup-Passphrase": encodeURIComponent(passphrase) }),
    },
  }).catch(() => {
    throw new Problem(0, "First Loop cannot be reached. Nothing is lost; start it again and go on.");
  });
  const found = await answer.json().catch(() => ({}));
  if (!answer.ok) throw new Problem(answer.status, found.detail ?? "The file could not be used.");
  return found as T;
}

export function useRecords() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries();
  return {
    check: useMutation({
      mutationFn: ({ file, passphrase }: Brought) =>
        send<Backup>("/api/records/restore/check", file, passphrase),
    }),
    restore: useMutation({
      mutationFn: ({ file, passphrase }: Brought) => send<Restored>("/api/records/restore", file, passphrase),
      onSuccess,
    }),
    seal: useMutation({
      mutationFn: async (passphrase: string) => {
        const parseAs = "blob" as const;
        return (await got(
          api.POST("/api/records/backup.age", { body: { passphrase }, parseAs }),
        )) as unknown as Blob;
      },
    }),
    takeIn: useMutation({
      mutationFn: ({ classId, file }: { classId: number; file: File }) =>
        send<Child>(`/api/classes/${classId}/children/import`, file),
      onSuccess,
    }),
    moveTo: useMutation({
      mutationFn: (name: string) => got(api.PUT("/api/records/time-zone", { body: { name } })),
      onSuccess,
    }),
    putAway: useMutation({
      mutationFn: ({ classId, archived }: { classId: number; archived: boolean }) =>
        got(
          api.PATCH("/api/classes/{class_id}", {
            params: { path: { class_id: classId } },
            body: { archived },
          }),
        ),
      onSuccess,
    }),
  };
}

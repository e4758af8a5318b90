import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type Arrived, api, got, type HandOut, type RoomSeen } from "./client";
import { keys } from "./keys";

/** The room of a class as it stands; null while it is not open. */
export const useRoom = (classId: number) =>
  useQuery({
    queryKey: keys.room(classId),
    queryFn: async () => {
      const params = { path: { class_id: classId } };
      return (await got(api.GET("/api/classes/{class_id}/room", { params }))).room ?? null;
    },
  });

const LISTENS_AGAIN_MS = 2000;
const PENS = ["pens"];

/** Take in what arrives in a room, as it arrives. False while the line to First Loop is down. */
export function useArriving(classId: number, open: boolean): boolean {
  const client = useQueryClient();
  const [listening, setListening] = useState(true);
  useEffect(() => {
    if (!open) return;
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const take = (came: Arrived) =>
      client.setQueryData<RoomSeen | null>(keys.room(classId), (before) => {
        if (came.whole) {
          const asked = before && client.isMutating({ mutationKey: PENS }) > 0; // and not answered yet
          return came.room ? { ...came.room, ...(asked && { pens_down: before.pens_down }) } : null;
        }
        if (!before) return before;
        const fresh = new Map((came.children ?? []).map((one) => [one.child.id, one]));
        const children = before.children.map((one) => fresh.get(one.child.id) ?? one);
        return { ...before, children, just_now: came.just_now ?? [] };
      });
    const listen = () => {
      source = new EventSource(`/api/classes/${classId}/room/arriving`);
      source.onopen = () => setListening(true);
      source.onmessage = (event) => take(JSON.parse(event.data) as Arrived);
      source.onerror = () => {
        setListening(false);
        source?.close(); // the browser would not try again after an answer that is no stream
        timer = setTimeout(listen, LISTENS_AGAIN_MS);
      };
    };
    listen();
    return () => {
      source?.close();
      clearTimeout(timer);
    };
  }, [client, classId, open]);
  return listening;
}

/** Everything a teacher does in a room; each answer is the room as it is then. */
export function useRoomSteps(classId: number) {
  const client = useQueryClient();
  const path = { class_id: classId };
  const onSuccess = ({ room }: { room: RoomSeen | null }) => {
    client.setQueryData(keys.room(classId), room);
  };
  const pensAre = (down: boolean) => {
    client.setQueryData<RoomSeen | null>(keys.room(classId), (room) => room && { ...room, pens_down: down });
  };
  return {
    open: useMutation({
      mutationFn: () => got(api.POST("/api/classes/{class_id}/room", { params: { path } })),
      onSuccess,
    }),
    close: useMutation({
      mutationFn: () => got(api.DELETE("/api/classes/{class_id}/room", { params: { path } })),
      onSuccess,
    }),
    pens: useMutation({
      mutationFn: (down: boolean) =>
        got(api.PUT("/api/classes/{class_id}/room/pens", { params: { path }, body: { down } })),
      mutationKey: PENS,
      scope: { id: `pens of class ${classId}` },
      onMutate: (down) => pensAre(down), // shown at once: pressed again before the answer, it is the other way
      onError: (_, down) => pensAre(!down),
      // the last answer counts: one before it shows how the pens were, not how they will be
      onSuccess: (answer) => client.isMutating({ mutationKey: PENS }) === 1 && onSuccess(answer),
    }),
    admit: useMutation({
      mutationFn: (tablet_ids: number[] | null) =>
        got(api.POST("/api/classes/{class_id}/room/admit", { params: { path }, body: { tablet_ids } })),
      onSuccess,
    }),
    give: useMutation({
      mutationFn: (given: { tablet: number; child_id: number; with_written: boolean }) =>
        got(
          api.PUT("/api/classes/{class_id}/room/tablets/{tablet_id}/child", {
            params: { path: { ...path, tablet_id: given.tablet } },
            body: { child_id: given.child_id, with_written: given.with_written },
          }),
        ),
      onSuccess,
    }),
    sendAway: useMutation({
      mutationFn: (tablet_id: number) =>
        got(
          api.DELETE("/api/classes/{class_id}/room/tablets/{tablet_id}", {
            params: { path: { ...path, tablet_id } },
          }),
        ),
      onSuccess,
    }),
    handOut: useMutation({
      mutationFn: (what: HandOut) =>
        got(
          api.POST("/api/classes/{class_id}/room/hand-out", {
            params: { path },
            body: { letter: "", text: "", ...what },
          }),
        ),
      onSuccess,
    }),
    collect: useMutation({
      mutationFn: () => got(api.POST("/api/classes/{class_id}/room/collect", { params: { path } })),
      onSuccess,
    }),
  };
}

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got, type SchoolClass, type StyleDoc } from "./client";
import { keys, wentStale } from "./keys";
import type { components, paths } from "./schema";

type Body<P extends keyof paths, M extends "post" | "patch"> =
  paths[P] extends Record<M, { requestBody: { content: { "application/json": infer B } } }> ? B : never;

export type ClassChange = Body<"/api/classes/{class_id}", "patch">;
export type ChildChange = Body<"/api/children/{child_id}", "patch">;
export type ChildIn = components["schemas"]["ChildIn"];
export type NamesRead = components["schemas"]["NamesRead"];
export type Erased = components["schemas"]["ErasedView"];
export type LevelTold = components["schemas"]["LevelView"];

/** How a class begins. */
const USUAL = { ruling: "four-lines", xh_mm: 10, level: "growing" } as const;

export const useRulings = () =>
  useQuery({ queryKey: keys.rulings(), queryFn: () => got(api.GET("/api/rulings")), staleTime: Infinity });

export const useLevelsTold = () =>
  useQuery({ queryKey: keys.levelsTold(), queryFn: () => got(api.GET("/api/levels")), staleTime: Infinity });

/** A class as it will be: what was changed, and what is drawn of it. */
const changed = (one: SchoolClass, body: ClassChange) =>
  ({ ...one, ...body, ruled: { ...one.ruled, washed: body.washed ?? one.ruled.washed } }) as SchoolClass;

/** A class made, or set up otherwise. */
export function useClassSteps() {
  const client = useQueryClient();
  const onSuccess = () => wentStale(client, "classes");
  return {
    add: useMutation({
      mutationFn: (name: string) => got(api.POST("/api/classes", { body: { ...USUAL, name } })),
      onSuccess,
    }),
    // one after another, and seen at once: the next press counts from what this one has changed
    change: useMutation({
      scope: { id: "class" },
      mutationKey: CHANGE,
      mutationFn: ({ id, body }: { id: number; body: ClassChange }) =>
        got(api.PATCH("/api/classes/{class_id}", { params: { path: { class_id: id } }, body })),
      onMutate: ({ id, body }) => {
        // what is still being fetched is older than this: it would take the change off the screen again
        void client.cancelQueries({ queryKey: keys.classes(), exact: true }, { revert: false });
        client.setQueryData<SchoolClass[]>(keys.classes(), (all) =>
          all?.map((one) => (one.id === id ? changed(one, body) : one)),
        );
      },
      onSettled: (_, __, { body }) => {
        if (body.line_names) void client.invalidateQueries(); // all that is said of letters names them
        if (client.isMutating({ mutationKey: CHANGE }) === 1) onSuccess();
      },
    }),
  };
}

const CHANGE = ["class", "change"];

/** The style of a class without what says which version it is. */
export function chosenOf(style: StyleDoc & { id?: number; version?: number }): StyleDoc {
  const { id: _id, version: _version, ...chosen } = style;
  return chosen;
}

/** A class follows a style; with it every letter changes. */
export function useStyleStep(classId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: StyleDoc) =>
      got(api.PUT("/api/classes/{class_id}/style", { params: { path: { class_id: classId } }, body })),
    onSuccess: () => client.invalidateQueries(),
  });
}

/** Children come, change, go to another class, are erased and brought back. */
export function useChildSteps() {
  const client = useQueryClient();
  const onSuccess = () => wentStale(client, "children");
  const path = (class_id: number) => ({ params: { path: { class_id } } });
  return {
    read: useMutation({
      mutationFn: ({ classId, text }: { classId: number; text: string }) =>
        got(api.POST("/api/classes/{class_id}/children/read-list", { ...path(classId), body: { text } })),
    }),
    add: useMutation({
      mutationFn: ({ classId, children }: { classId: number; children: ChildIn[] }) =>
        got(api.POST("/api/classes/{class_id}/children/many", { ...path(classId), body: { children } })),
      onSuccess,
    }),
    change: useMutation({
      mutationFn: ({ id, body }: { id: number; body: ChildChange }) =>
        got(api.PATCH("/api/children/{child_id}", { params: { path: { child_id: id } }, body })),
      onSuccess,
    }),
    erase: useMutation({
      mutationFn: (id: number) =>
        got(api.DELETE("/api/children/{child_id}", { params: { path: { child_id: id } } })),
      onSuccess: () => client.invalidateQueries(),
    }),
    bringBack: useMutation({
      mutationFn: (id: number) =>
        got(api.POST("/api/erased/{erased_id}/bring-back", { params: { path: { erased_id: id } } })),
      onSuccess: () => client.invalidateQueries(),
    }),
    forget: useMutation({
      mutationFn: (id: number) =>
        got(api.DELETE("/api/erased/{erased_id}", { params: { path: { erased_id: id } } })),
      onSuccess,
    }),
  };
}

export const useErased = () =>
  useQuery({ queryKey: keys.erased(), queryFn: () => got(api.GET("/api/erased")) });

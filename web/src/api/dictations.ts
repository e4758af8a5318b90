import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Dictation, got } from "./client";
import { keys, wentStale } from "./keys";

export const useDictations = (classId: number) =>
  useQuery({
    queryKey: keys.dictations(classId),
    queryFn: () =>
      got(api.GET("/api/classes/{class_id}/dictations", { params: { path: { class_id: classId } } })),
  });

export const useDictation = (dictationId: number) =>
  useQuery({
    queryKey: keys.dictation(dictationId),
    queryFn: () =>
      got(api.GET("/api/dictations/{dictation_id}", { params: { path: { dictation_id: dictationId } } })),
  });

export function useMakeDictation(classId: number, onMade: (made: Dictation) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (words: string[]) =>
      got(
        api.POST("/api/classes/{class_id}/dictations", {
          params: { path: { class_id: classId } },
          body: { words },
        }),
      ),
    onSuccess: (made) => {
      wentStale(client, "dictated");
      onMade(made);
    },
  });
}

type Place = { child_id: number; position: number };

/** Steps on a dictation; marks are kept in the order in which they are made. */
export function useDictationSteps(dictationId: number) {
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: keys.dictation(dictationId) });
  const path = { params: { path: { dictation_id: dictationId } } };
  return {
    mark: useMutation({
      scope: { id: `dictation ${dictationId}` },
      mutationFn: (body: Place & { tries: number[][] }) =>
        got(api.PUT("/api/dictations/{dictation_id}/marks", { ...path, body })),
      onSuccess: () => wentStale(client, "dictated"),
      onError: again,
    }),
    write: useMutation({
      mutationFn: (body: Place) => got(api.POST("/api/dictations/{dictation_id}/written", { ...path, body })),
      onSuccess: again,
    }),
    drop: useMutation({
      mutationFn: () => got(api.DELETE("/api/dictations/{dictation_id}", path)),
      onSuccess: () => wentStale(client, "dictated"),
    }),
  };
}

export const useUnitsOf = (childId: number) =>
  useQuery({
    queryKey: keys.unitsOf(childId),
    queryFn: () =>
      got(api.GET("/api/children/{child_id}/units", { params: { path: { child_id: childId } } })),
  });

export const useUnitMap = (classId: number, on: string | undefined) =>
  useQuery({
    queryKey: keys.unitMap(classId, on),
    queryFn: () =>
      got(
        api.GET("/api/classes/{class_id}/units", {
          params: { path: { class_id: classId }, query: on ? { on } : {} },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const useRule = (enabled: boolean) =>
  useQuery({
    queryKey: keys.rule(),
    queryFn: () => got(api.GET("/api/how-letters-stand")),
    staleTime: Number.POSITIVE_INFINITY,
    enabled,
  });

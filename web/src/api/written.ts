import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got, type QueueOrder, type Word } from "./client";
import { keys, wentStale } from "./keys";
import { showNewest } from "./newest";

export const useWord = (wordId: number) =>
  useQuery({
    queryKey: keys.word(wordId),
    queryFn: () => got(api.GET("/api/written/{word_id}", { params: { path: { word_id: wordId } } })),
  });

export const useWordsOf = (childId: number, limit: number) =>
  useQuery({
    queryKey: keys.wordsOf(childId, limit),
    queryFn: () =>
      got(
        api.GET("/api/children/{child_id}/written", {
          params: { path: { child_id: childId }, query: { limit } },
        }),
      ),
  });

export const useWordsWithinReach = (childId: number | undefined) =>
  useQuery({
    queryKey: keys.withinReach(childId),
    queryFn: () =>
      got(
        api.GET("/api/children/{child_id}/words-within-reach", {
          params: { path: { child_id: childId ?? 0 } },
        }),
      ),
    enabled: childId !== undefined,
  });

export const useAskForWord = (onAsked: (word: Word) => void) =>
  useMutation({
    mutationFn: (body: { child_id: number; text: string }) => got(api.POST("/api/written", { body })),
    onSuccess: onAsked,
  });

/** Cross a word out or take that back; every list that shows it is fetched anew. */
export function useCrossOutWord() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, crossed_out }: { id: number; crossed_out: boolean }) =>
      got(
        api.PUT("/api/written/{word_id}/crossed-out", {
          params: { path: { word_id: id } },
          body: { crossed_out },
        }),
      ),
    onSuccess: async (word) => {
      await showNewest(client, keys.word(word.id), word);
      wentStale(client, "word");
    },
  });
}

export const useWordsToLookAt = (classId: number, order: QueueOrder) =>
  useQuery({
    queryKey: keys.wordsToLookAt(classId, order),
    queryFn: () =>
      got(
        api.GET("/api/classes/{class_id}/words-to-look-at", {
          params: { path: { class_id: classId }, query: { order } },
        }),
      ),
  });

/** Note that words were looked at, or take that back. */
export function useLookAtWords() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { word_ids: number[]; looked_at: boolean }) =>
      got(api.POST("/api/words-looked-at", { body })),
    onSuccess: () => wentStale(client, "lookedAt"),
  });
}

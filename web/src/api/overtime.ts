import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type Aspect, api, type ChildChange, type GroupIn, got } from "./client";
import { keys, wentStale } from "./keys";
import { showNewest } from "./newest";
import { inAddress } from "./queries";

export const useClassMap = (classId: number, aspect: Aspect, on: string | undefined) =>
  useQuery({
    queryKey: keys.map(classId, aspect, on),
    queryFn: () =>
      got(
        api.GET("/api/classes/{class_id}/map", {
          params: { path: { class_id: classId }, query: on ? { aspect, on } : { aspect } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const useStanding = (childId: number, letter: string) =>
  useQuery({
    queryKey: keys.standing(childId, letter),
    queryFn: () =>
      got(
        api.GET("/api/children/{child_id}/letters/{char}/standing", {
          params: { path: { child_id: childId, char: letter } },
        }),
      ),
  });

export const useToday = (classId: number) =>
  useQuery({
    queryKey: keys.today(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/today", { params: { path: { class_id: classId } } })),
  });

/** What was taught when, and who has not written it alone since. */
export const useCoverage = (classId: number) =>
  useQuery({
    queryKey: keys.coverage(classId),
    queryFn: () =>
      got(api.GET("/api/classes/{class_id}/coverage", { params: { path: { class_id: classId } } })),
  });

/** The teacher's own groups, and going back to those worked out; both answer with the whole of today. */
export function useGroups(classId: number) {
  const client = useQueryClient();
  const params = { path: { class_id: classId } };
  const onSuccess = (today: unknown) => showNewest(client, keys.today(classId), today);
  return {
    keep: useMutation({
      mutationFn: (groups: GroupIn[]) =>
        got(api.PUT("/api/classes/{class_id}/groups", { params, body: { groups } })),
      onSuccess,
    }),
    afresh: useMutation({
      mutationFn: () => got(api.DELETE("/api/classes/{class_id}/groups", { params })),
      onSuccess,
    }),
  };
}

/** Who of a class needs what of a letter. */
export const useLetterInClass = (classId: number, char: string) =>
  useQuery({
    queryKey: keys.letterInClass(classId, char),
    queryFn: () =>
      got(
        api.GET("/api/classes/{class_id}/letters/{char}", {
          params: { path: { class_id: classId, char: inAddress(char) } },
        }),
      ),
  });

export const useStory = (childId: number) =>
  useQuery({
    queryKey: keys.story(childId),
    queryFn: () =>
      got(api.GET("/api/children/{child_id}/story", { params: { path: { child_id: childId } } })),
  });

/** Notes of the teacher's, and what to mind with a child. */
export function useNotes(childId: number) {
  const client = useQueryClient();
  const onSuccess = () => wentStale(client, "notes");
  return {
    add: useMutation({
      mutationFn: (text: string) =>
        got(
          api.POST("/api/children/{child_id}/notes", {
            params: { path: { child_id: childId } },
            body: { text },
          }),
        ),
      onSuccess,
    }),
    takeBack: useMutation({
      mutationFn: (noteId: number) =>
        got(
          api.DELETE("/api/children/{child_id}/notes/{note_id}", {
            params: { path: { child_id: childId, note_id: noteId } },
          }),
        ),
      onSuccess,
    }),
    mind: useMutation({
      mutationFn: (body: ChildChange) =>
        got(api.PATCH("/api/children/{child_id}", { params: { path: { child_id: childId } }, body })),
      onSuccess: () => client.invalidateQueries(),
    }),
  };
}

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type DrawnWord, got, Problem, type WordListSeen } from "./client";
import { keys, wentStale } from "./keys";
import type { paths } from "./schema";

type ListPath = "/api/classes/{class_id}/word-lists/found";
/** Whose words are asked for, and everything else that a list of words is asked for by. */
export type Asked = NonNullable<paths[ListPath]["get"]["parameters"]["query"]>;
export type Rings = NonNullable<
  paths["/api/classes/{class_id}/word-lists/rings"]["get"]["parameters"]["query"]
>;
export type Gaps = paths["/api/classes/{class_id}/word-lists/gaps"]["get"]["parameters"]["query"];
export type Sort = paths["/api/classes/{class_id}/word-lists/sort"]["get"]["parameters"]["query"];
type Ladder = NonNullable<paths["/api/classes/{class_id}/word-lists/ladder"]["get"]["parameters"]["query"]>;
type Sentences = NonNullable<
  paths["/api/classes/{class_id}/word-lists/sentences"]["get"]["parameters"]["query"]
>;
type Sentence = paths["/api/classes/{class_id}/word-lists/sentence"]["get"]["parameters"]["query"];

const params = <Q>(classId: number, query: Q) => ({ params: { path: { class_id: classId }, query } });

export const useFoundWords = (classId: number, asked: Asked) =>
  useQuery({
    queryKey: keys.wordList(classId, "found", asked),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/found", params(classId, asked))),
    placeholderData: keepPreviousData,
  });

export const useRings = (classId: number, asked: Rings) =>
  useQuery({
    queryKey: keys.wordList(classId, "rings", asked),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/rings", params(classId, asked))),
    placeholderData: keepPreviousData,
  });

export const useGaps = (classId: number, asked: Gaps) =>
  useQuery({
    queryKey: keys.wordList(classId, "gaps", asked),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/gaps", params(classId, asked))),
    placeholderData: keepPreviousData,
  });

export const useSort = (classId: number, asked: Sort) =>
  useQuery({
    queryKey: keys.wordList(classId, "sort", asked),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/sort", params(classId, asked))),
    placeholderData: keepPreviousData,
  });

export const useLadder = (classId: number, asked: Ladder, enabled: boolean) =>
  useQuery({
    queryKey: keys.wordList(classId, "ladder", asked),
    queryFn: (): Promise<DrawnWord[]> =>
      got(api.GET("/api/classes/{class_id}/word-lists/ladder", params(classId, asked))),
    placeholderData: keepPreviousData,
    enabled,
  });

export const useSentences = (classId: number, asked: Sentences) =>
  useQuery({
    queryKey: keys.wordList(classId, "sentences", asked),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/sentences", params(classId, asked))),
    placeholderData: keepPreviousData,
  });

export const useSentence = (classId: number, asked: Sentence) =>
  useQuery({
    queryKey: keys.wordList(classId, "sentence", asked),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/sentence", params(classId, asked))),
    placeholderData: keepPreviousData,
    enabled: asked.text.trim() !== "",
  });

export const useWritingTime = (classId: number, text: string[]) =>
  useQuery({
    queryKey: keys.wordList(classId, "time", text),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/time", params(classId, { text }))),
    placeholderData: keepPreviousData,
    enabled: text.length > 0,
  });

export const useJoinedForm = (classId: number, text: string) =>
  useQuery({
    queryKey: keys.wordList(classId, "joined", { text }),
    queryFn: () => got(api.GET("/api/classes/{class_id}/word-lists/joined", params(classId, { text }))),
    enabled: text !== "",
  });

export const useBank = (search: string, own: boolean) =>
  useQuery({
    queryKey: keys.bank(search, own),
    queryFn: () => got(api.GET("/api/bank/words", { params: { query: { search, only_own: own } } })),
    placeholderData: keepPreviousData,
  });

/** Steps on the word bank; each makes every list of words anew. */
export function useBankSteps() {
  const client = useQueryClient();
  const onSuccess = () => wentStale(client, "bank");
  const path = (text: string) => ({ params: { path: { text } } });
  const scope = { id: "bank" }; // one after another, in the order in which they were made
  return {
    keep: useMutation({
      scope,
      mutationFn: ({ text, units, by_heart }: { text: string; units: string; by_heart: boolean }) =>
        got(api.PUT("/api/bank/words/{text}", { ...path(text), body: { units, by_heart } })),
      onSuccess,
    }),
    hide: useMutation({
      scope,
      mutationFn: (text: string) => got(api.POST("/api/bank/words/{text}/hidden", path(text))),
      onSuccess,
    }),
    show: useMutation({
      scope,
      mutationFn: (text: string) => got(api.POST("/api/bank/words/{text}/shown", path(text))),
      onSuccess,
    }),
    undo: useMutation({ scope, mutationFn: () => got(api.POST("/api/bank/undo")), onSuccess }),
    take: useMutation({
      mutationFn: ({ file, job }: { file: Blob; job: string }) => sendList("/api/bank/list", file, job),
      onSuccess,
    }),
  };
}

/** What a list would change; nothing is changed. */
export const lookAtList = (file: Blob, job: string) => sendList("/api/bank/list/look", file, job);

export const listProgress = (job: string) =>
  got(api.GET("/api/bank/list/progress", { params: { query: { job } } }));

async function sendList(path: string, file: Blob, job: string): Promise<WordListSeen> {
  const response = await fetch(`${path}?job=${job}`, { method: "POST", body: file });
  const answer = await response.json();
  if (!response.ok) throw new Problem(response.status, answer.detail ?? "This list could not be read.");
  return answer;
}

import { keepPreviousData, useMutation, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import {
  type Alphabet,
  api,
  type Edit,
  type FamilyBoard,
  type FamilyChange,
  got,
  type Row,
  type SchemeKey,
  type SlipOf,
  type StyleDoc,
} from "./client";
import { keys, wentStale } from "./keys";
import { beginStep, mayTakeBack, showNewest, showStep } from "./newest";

const FOREVER = Number.POSITIVE_INFINITY;

export const useAbout = () =>
  useQuery({ queryKey: keys.about(), queryFn: () => got(api.GET("/api/about")), staleTime: FOREVER });

export const useClasses = () =>
  useQuery({ queryKey: keys.classes(), queryFn: () => got(api.GET("/api/classes")) });

export const useFamilies = (
  classId: number,
  alphabet: Alphabet = "lower case",
  scheme: SchemeKey = "by-movement",
) =>
  useQuery({
    queryKey: keys.families(classId, scheme, alphabet),
    queryFn: () =>
      got(api.GET("/api/families", { params: { query: { class_id: classId, scheme, alphabet } } })),
    staleTime: FOREVER,
  });

/** Steps on a board of families, in the order in which they were asked for; each answers with the whole board. */
export function useBoardSteps(classId: number, scheme: SchemeKey, alphabet: Alphabet) {
  const client = useQueryClient();
  const params = { path: { class_id: classId }, query: { scheme, alphabet } };
  const place = keys.families(classId, scheme, alphabet);
  const step = {
    scope: { id: `board ${classId}` },
    onSuccess: (board: FamilyBoard) => showNewest(client, place, board),
  };
  return {
    change: useMutation({
      mutationFn: (change: FamilyChange) =>
        got(api.POST("/api/classes/{class_id}/families", { params, body: { change } })),
      ...step,
    }),
    undo: useMutation({
      mutationFn: () => got(api.POST("/api/classes/{class_id}/families/undo", { params })),
      ...step,
    }),
  };
}

export const useCompared = (classId: number, first: SchemeKey, second: SchemeKey, alphabet: Alphabet) =>
  useQuery({
    queryKey: keys.compared(classId, first, second, alphabet),
    queryFn: () =>
      got(
        api.GET("/api/families/compare", {
          params: { query: { class_id: classId, first, second, alphabet } },
        }),
      ),
  });

export const useParts = (
  classId: number,
  scheme: SchemeKey,
  alphabet: Alphabet,
  family: string,
  most: number,
) =>
  useQuery({
    queryKey: keys.parts(classId, scheme, alphabet, family, most),
    queryFn: () =>
      got(
        api.GET("/api/families/split", {
          params: { query: { class_id: classId, scheme, alphabet, family, most } },
        }),
      ),
    enabled: most > 0,
  });

/** What is to be said of a family split as the teacher wants it. */
export const usePartsAsWanted = (
  classId: number,
  scheme: SchemeKey,
  alphabet: Alphabet,
  family: string,
  part: string[],
) =>
  useQuery({
    queryKey: keys.partsAsWanted(classId, scheme, alphabet, family, part),
    queryFn: () =>
      got(
        api.GET("/api/families/split", {
          params: { query: { class_id: classId, scheme, alphabet, family, part } },
        }),
      ),
    enabled: part.length > 0 && part.every(Boolean),
    placeholderData: keepPreviousData,
  });

/** The moves of a letter as a rule names them; of none while no letter is taken. */
export const useMovesOf = (classId: number, char: string) =>
  useQuery({
    queryKey: keys.movesOf(classId, char),
    queryFn: () =>
      got(
        api.GET("/api/families/moves/{char}", {
          params: { path: { char: inAddress(char) }, query: { class_id: classId } },
        }),
      ),
    enabled: char !== "",
  });

/** Which letters a rule would have before it is used. */
export const useRulePreview = (
  classId: number,
  scheme: SchemeKey,
  alphabet: Alphabet,
  family: string,
  rule: string,
) =>
  useQuery({
    queryKey: keys.rulePreview(classId, scheme, alphabet, family, rule),
    queryFn: () =>
      got(
        api.GET("/api/families/rule", {
          params: { query: { class_id: classId, scheme, alphabet, family, rule } },
        }),
      ),
    enabled: rule !== "",
    retry: false,
    placeholderData: keepPreviousData,
  });

/** Where schools differ, both ways drawn. */
export const useDifferences = (classId: number) =>
  useQuery({
    queryKey: keys.differences(classId),
    queryFn: () => got(api.GET("/api/differences", { params: { query: { class_id: classId } } })),
  });

export const useSounds = (classId: number) =>
  useQuery({
    queryKey: keys.sounds(classId),
    queryFn: () =>
      got(api.GET("/api/classes/{class_id}/sounds", { params: { path: { class_id: classId } } })),
  });

export const useModel = (text: string, classId: number) =>
  useQuery({
    queryKey: keys.model(classId, text),
    queryFn: () => got(api.GET("/api/model", { params: { query: { text, class_id: classId } } })),
    staleTime: FOREVER,
    placeholderData: keepPreviousData,
  });

/** The demo school beside: how far it is, asked again while it is being made. */
export function useDemoSchool() {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: keys.demoSchool(),
    queryFn: () => got(api.GET("/api/demo-school")),
    refetchInterval: (one) => (one.state.data?.state === "making" ? 1500 : false),
  });
  const start = useMutation({
    mutationFn: () => got(api.POST("/api/demo-school")),
    onSuccess: (found) => showNewest(client, keys.demoSchool(), found),
  });
  return {
    state: query.data?.state ?? "off",
    url: query.data?.url ?? "",
    start: () => start.mutate(),
    error: start.error,
  };
}

/** The slips of some letters, those of the first letter first. */
export const useSlipsOf = (letters: string[], classId: number): SlipOf[] =>
  useQueries({
    queries: letters.map((char) => ({
      queryKey: keys.slips(classId, char),
      queryFn: () =>
        got(
          api.GET("/api/letters/{char}/slips", {
            params: { path: { char: inAddress(char) }, query: { class_id: classId } },
          }),
        ),
      staleTime: FOREVER,
    })),
    combine: (found) =>
      found.flatMap(({ data }, i) => (data ?? []).map((slip) => ({ ...slip, char: letters[i] ?? "" }))),
  });

export const useOwnWords = (classId: number) =>
  useQuery({
    queryKey: keys.ownWords(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/words", { params: { path: { class_id: classId } } })),
  });

export const useStyleLook = (style: StyleDoc, against: StyleDoc, text: string, letter: string) =>
  useQuery({
    queryKey: keys.styleLook(style, against, text, letter),
    queryFn: () => got(api.POST("/api/styles/look", { body: { style, against, text, letter } })),
    staleTime: FOREVER,
    placeholderData: keepPreviousData,
  });

export const useStyles = () =>
  useQuery({ queryKey: keys.styles(), queryFn: () => got(api.GET("/api/styles")) });

/** A letter's name in an address: a full stop alone would mean "this folder". */
export const inAddress = (char: string) => (char === "." ? "full-stop" : char);

export const letterQuery = (char: string, classId: number) => ({
  queryKey: keys.letter(classId, char),
  queryFn: () =>
    got(
      api.GET("/api/letters/{char}", {
        params: { path: { char: inAddress(char) }, query: { class_id: classId } },
      }),
    ),
  staleTime: FOREVER,
});

export const useLetter = (char: string, classId: number) => useQuery(letterQuery(char, classId));

export const useLine = (text: string, classId: number) =>
  useQuery({
    queryKey: keys.line(classId, text),
    queryFn: () => got(api.GET("/api/line", { params: { query: { text, class_id: classId } } })),
    staleTime: FOREVER,
  });

export const useChild = (childId: number) =>
  useQuery({
    queryKey: keys.child(childId),
    queryFn: () => got(api.GET("/api/children/{child_id}", { params: { path: { child_id: childId } } })),
  });

export const useLetterHistory = (childId: number, char: string) =>
  useQuery({
    queryKey: keys.history(childId, char),
    queryFn: () =>
      got(
        api.GET("/api/children/{child_id}/letters/{char}", {
          params: { path: { child_id: childId, char } },
        }),
      ),
  });

export type RowFilter = { class_id?: number; child_id?: number; letter?: string; limit?: number };

export const useRows = (filter: RowFilter) =>
  useQuery({
    queryKey: keys.rows(filter),
    queryFn: () => got(api.GET("/api/rows", { params: { query: filter } })),
  });

export const useRow = (rowId: number) =>
  useQuery({
    queryKey: keys.row(rowId),
    queryFn: () => got(api.GET("/api/rows/{row_id}", { params: { path: { row_id: rowId } } })),
  });

/**
 * Steps on a row. Each answers with the whole row, which replaces what the page has. Marks and what takes them
 * back go in the order in which they were asked for; a child's best pick waits for no row that is being finished.
 */
export function useRowSteps(rowId: number) {
  const client = useQueryClient();
  const params = { path: { row_id: rowId } };
  const place = keys.row(rowId);
  const step = {
    onMutate: () => beginStep(place),
    onSuccess: async (row: Row, _: unknown, number: number) => {
      await showStep(client, place, number, row);
      wentStale(client, "marks");
    },
  };
  const inOrder = { ...step, scope: { id: `row ${rowId}` } };
  const canBeUndone = { ...inOrder, mutationKey: place };
  return {
    edit: useMutation({
      mutationFn: (body: Edit) => got(api.POST("/api/rows/{row_id}/edits", { params, body })),
      ...canBeUndone,
    }),
    agree: useMutation({
      mutationFn: () => got(api.POST("/api/rows/{row_id}/agree", { params })),
      ...canBeUndone,
    }),
    mayUndo: (known: boolean) => mayTakeBack(client, place, known),
    undo: useMutation({
      mutationFn: () => got(api.POST("/api/rows/{row_id}/undo", { params })),
      ...inOrder,
    }),
    finish: useMutation({
      mutationFn: () => got(api.POST("/api/rows/{row_id}/finish", { params })),
      ...step,
    }),
  };
}

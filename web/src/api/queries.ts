import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Edit, got, type Row } from "./client";

const FOREVER = Number.POSITIVE_INFINITY;

export const useAbout = () =>
  useQuery({ queryKey: ["about"], queryFn: () => got(api.GET("/api/about")), staleTime: FOREVER });

export const useClasses = () =>
  useQuery({ queryKey: ["classes"], queryFn: () => got(api.GET("/api/classes")) });

export const useFamilies = (classId: number) =>
  useQuery({
    queryKey: ["families", classId],
    queryFn: () => got(api.GET("/api/families", { params: { query: { class_id: classId } } })),
    staleTime: FOREVER,
  });

export const letterQuery = (char: string, classId: number) => ({
  queryKey: ["letter", classId, char],
  queryFn: () =>
    got(api.GET("/api/letters/{char}", { params: { path: { char }, query: { class_id: classId } } })),
  staleTime: FOREVER,
});

export const useLetter = (char: string, classId: number) => useQuery(letterQuery(char, classId));

export const useLine = (text: string, classId: number) =>
  useQuery({
    queryKey: ["line", classId, text],
    queryFn: () => got(api.GET("/api/line", { params: { query: { text, class_id: classId } } })),
    staleTime: FOREVER,
  });

export const useClassMap = (classId: number) =>
  useQuery({
    queryKey: ["map", classId],
    queryFn: () => got(api.GET("/api/classes/{class_id}/map", { params: { path: { class_id: classId } } })),
  });

export const useChild = (childId: number) =>
  useQuery({
    queryKey: ["child", childId],
    queryFn: () => got(api.GET("/api/children/{child_id}", { params: { path: { child_id: childId } } })),
  });

export const useLetterHistory = (childId: number, char: string) =>
  useQuery({
    queryKey: ["history", childId, char],
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
    queryKey: ["rows", filter],
    queryFn: () => got(api.GET("/api/rows", { params: { query: filter } })),
  });

export const useRow = (rowId: number) =>
  useQuery({
    queryKey: ["row", rowId],
    queryFn: () => got(api.GET("/api/rows/{row_id}", { params: { path: { row_id: rowId } } })),
  });

/** Steps on a row. Each answers with the whole row, which replaces what the page has. */
export function useRowSteps(rowId: number) {
  const client = useQueryClient();
  const params = { path: { row_id: rowId } };
  const keep = (row: Row) => {
    client.setQueryData(["row", rowId], row);
    for (const key of ["rows", "history", "child", "map"]) client.invalidateQueries({ queryKey: [key] });
  };
  return {
    edit: useMutation({
      mutationFn: (body: Edit) => got(api.POST("/api/rows/{row_id}/edits", { params, body })),
      onSuccess: keep,
    }),
    agree: useMutation({
      mutationFn: () => got(api.POST("/api/rows/{row_id}/agree", { params })),
      onSuccess: keep,
    }),
    undo: useMutation({
      mutationFn: () => got(api.POST("/api/rows/{row_id}/undo", { params })),
      onSuccess: keep,
    }),
    finish: useMutation({
      mutationFn: () => got(api.POST("/api/rows/{row_id}/finish", { params })),
      onSuccess: keep,
    }),
  };
}

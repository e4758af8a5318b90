import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got, type PrintIn, type SheetWanted, type SheetWish } from "./client";
import { keys, wentStale } from "./keys";

const of = (classId: number) => ({ path: { class_id: classId } });
const sheet = (sheetId: number) => ({ path: { sheet_id: sheetId } });

export const useReadySheets = (classId: number) =>
  useQuery({
    queryKey: keys.readySheets(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/sheets/ready", { params: of(classId) })),
  });

export const useKeptSheets = (classId: number) =>
  useQuery({
    queryKey: keys.keptSheets(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/sheets", { params: of(classId) })),
  });

/** How a sheet looks. While another one is being laid out the one before stays on the screen. */
export const useSheetPreview = (classId: number, wish: SheetWish, child = "") =>
  useQuery({
    queryKey: keys.sheetPreview(classId, wish, child),
    queryFn: () =>
      got(api.POST("/api/classes/{class_id}/sheets/preview", { params: of(classId), body: { wish, child } })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
  });

export const useEachSheets = (classId: number) =>
  useQuery({
    queryKey: keys.eachSheets(classId),
    queryFn: () => got(api.POST("/api/classes/{class_id}/sheets/each", { params: of(classId), body: {} })),
  });

export const usePrintedSheets = (classId: number) =>
  useQuery({
    queryKey: keys.printedSheets(classId),
    queryFn: () => got(api.GET("/api/classes/{class_id}/printed", { params: of(classId) })),
  });

export const sheetFor = (classId: number, body: SheetWanted) =>
  got(api.POST("/api/classes/{class_id}/sheets/for", { params: of(classId), body }));

export const sheetOfChild = (childId: number) =>
  got(api.GET("/api/children/{child_id}/sheet", { params: { path: { child_id: childId } } }));

/** A page of a sheet as a picture. */
export const pictureOf = async (classId: number, wish: SheetWish, page: number): Promise<Blob> =>
  (await got(
    api.POST("/api/classes/{class_id}/sheets/picture", {
      params: of(classId),
      body: { wish, page },
      parseAs: "blob",
    }),
  )) as unknown as Blob;

/** What is done with the sheets a class keeps, in the order in which it was asked for. */
export function useSheetSteps(classId: number) {
  const client = useQueryClient();
  const step = { scope: { id: `sheets ${classId}` }, onSuccess: () => wentStale(client, "sheets") };
  return {
    keep: useMutation({
      mutationFn: (body: { name: string; wish: SheetWish }) =>
        got(api.POST("/api/classes/{class_id}/sheets", { params: of(classId), body })),
      ...step,
    }),
    change: useMutation({
      mutationFn: ({ id, ...body }: { id: number; name: string; wish: SheetWish }) =>
        got(api.PUT("/api/sheets/{sheet_id}", { params: sheet(id), body })),
      ...step,
    }),
    drop: useMutation({
      mutationFn: (id: number) => got(api.DELETE("/api/sheets/{sheet_id}", { params: sheet(id) })),
      ...step,
    }),
    bringBack: useMutation({
      mutationFn: (id: number) => got(api.POST("/api/sheets/{sheet_id}/back", { params: sheet(id) })),
      ...step,
    }),
    takeIn: useMutation({
      mutationFn: async (file: File) =>
        got(
          api.POST("/api/classes/{class_id}/sheets/file", {
            params: of(classId),
            body: { text: await file.text() },
          }),
        ),
      ...step,
    }),
  };
}

export function usePrinting(classId: number) {
  const client = useQueryClient();
  const onSuccess = () => wentStale(client, "printed");
  return {
    print: useMutation({
      mutationFn: (body: PrintIn) =>
        got(api.POST("/api/classes/{class_id}/printed", { params: of(classId), body })),
      onSuccess,
    }),
    again: useMutation({
      mutationFn: (code: string) =>
        got(api.POST("/api/printed/{code}/again", { params: { path: { code } } })),
      onSuccess,
    }),
    back: useMutation({
      mutationFn: ({ code, number, back }: { code: string; number: number; back: boolean }) =>
        got(
          api.PUT("/api/printed/{code}/{number}/back", {
            params: { path: { code, number } },
            body: { back },
          }),
        ),
      onSuccess,
    }),
  };
}

/** Where the pages of a printed sheet are. */
export const pdfOf = (code: string) => `/api/printed/${code}/sheet.pdf`;

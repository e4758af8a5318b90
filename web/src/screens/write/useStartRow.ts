import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, got } from "@/api/client";

/** Start a row and go to it. */
export function useStartRow(body: { child_id: number; letter: string } | null) {
  const navigate = useNavigate();
  return useMutation({
    mutationFn: () => {
      if (!body) throw new Error("Choose a child and a letter.");
      return got(api.POST("/api/rows", { body: { ...body, support: [] } }));
    },
    onSuccess: (row) => navigate(`/write/${row.id}`),
  });
}

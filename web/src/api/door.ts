import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got } from "./client";
import { keys } from "./keys";

/** Whether a passphrase is wanted here, and whether it was said. */
export const useDoor = () =>
  useQuery({ queryKey: keys.door(), queryFn: () => got(api.GET("/api/door/")), staleTime: 60_000 });

export function useDoorSteps() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: keys.door() });
  return {
    enter: useMutation({
      mutationFn: (passphrase: string) => got(api.POST("/api/door/enter", { body: { passphrase } })),
      onSuccess,
    }),
    recover: useMutation({
      mutationFn: (body: { words: string; passphrase: string }) =>
        got(api.POST("/api/door/recover", { body })),
    }),
    change: useMutation({
      mutationFn: (body: { passphrase: string; following: string }) =>
        got(api.POST("/api/door/passphrase", { body })),
    }),
    leave: useMutation({
      mutationFn: () => got(api.POST("/api/door/leave")),
      onSuccess: () => {
        client.clear(); // nothing of a child stays on the screen of whoever comes next
        return onSuccess();
      },
    }),
  };
}

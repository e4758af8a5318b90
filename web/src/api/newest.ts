import type { QueryClient, QueryKey } from "@tanstack/react-query";

/**
 * Put the answer to a step on screen. It is newer than whatever is still being fetched for the same place:
 * that is called off first, or it would come late and undo what the step has done.
 */
export async function showNewest<T>(client: QueryClient, queryKey: QueryKey, newest: T) {
  await client.cancelQueries({ queryKey, exact: true });
  client.setQueryData(queryKey, newest);
}

import { notifyManager, type QueryClient, type QueryKey } from "@tanstack/react-query";

/**
 * Put the answer to a step on screen. It is newer than whatever is still being fetched for the same place:
 * that is called off first, or it would come late and undo what the step has done. Resolves once every
 * screen has been told.
 */
export async function showNewest<T>(client: QueryClient, queryKey: QueryKey, newest: T) {
  await client.cancelQueries({ queryKey, exact: true });
  client.setQueryData(queryKey, newest);
  await new Promise<void>((told) => notifyManager.schedule(told)); // screens are told in the order of what is scheduled
}

const begun = new Map<string, number>();

/** Note that a step on a place begins; gives its number. */
export function beginStep(queryKey: QueryKey): number {
  const place = JSON.stringify(queryKey);
  const number = (begun.get(place) ?? 0) + 1;
  begun.set(place, number);
  return number;
}

/**
 * Whether there is a step to take back: `known` is what the last answer said, and what is on its way counts
 * before it is answered, if its mutations have the place for their key.
 */
export const mayTakeBack = (client: QueryClient, place: QueryKey, known: boolean) =>
  known || client.isMutating({ mutationKey: place, exact: true }) > 0;

/**
 * Put the answer to a step on screen, unless another has begun since: then the answer may be of before that
 * one, and the place is fetched anew.
 */
export async function showStep<T>(client: QueryClient, queryKey: QueryKey, number: number, answer: T) {
  if (number === begun.get(JSON.stringify(queryKey))) await showNewest(client, queryKey, answer);
  else await client.invalidateQueries({ queryKey, exact: true });
}

import { notifyManager, QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { keys } from "@/api/keys";
import { showNewest } from "@/api/newest";

test("when the newest is said to be shown, the screens have it, and what was on its way comes to nothing", async () => {
  const client = new QueryClient();
  let answerLate: (old: string) => void = () => {};
  const queryFn = () => new Promise<string>((answer) => (answerLate = answer));
  const shown: unknown[] = [];
  const screen = new QueryObserver<string>(client, { queryKey: keys.row(1), queryFn });
  const leave = screen.subscribe(notifyManager.batchCalls(({ data }) => shown.push(data))); // as React's hook does
  await showNewest(client, keys.row(1), "new");
  expect(shown.at(-1)).toBe("new");
  answerLate("old");
  await new Promise((later) => setTimeout(later, 10));
  expect(shown.at(-1)).toBe("new");
  leave();
});

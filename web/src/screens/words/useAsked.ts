import { useSearchParams } from "react-router";
import type { Asked } from "@/api/words";

type Whose = Pick<Asked, "child_id" | "on" | "sets" | "family" | "before" | "any_letters">;

/** What of the address says whose words are asked for; the same for every list of words. */
const WHOSE = ["child_id", "on", "sets", "family", "before", "any_letters"] as const;

const NUMBERS = new Set(["child_id", "sets", "least", "most", "seed", "length", "half", "count"]);
const TICKS = new Set(["before", "any_letters", "as_sound", "by_heart", "one_length", "both", "allow_drop"]);

const read = (name: string, value: string) =>
  NUMBERS.has(name) ? Number(value) : TICKS.has(name) ? value === "true" : value;

/** The conditions of a list of words: they live in the address, so that a page can be come back to. */
export function useAsked() {
  const [search, setSearch] = useSearchParams();
  const set = (changes: Record<string, string | number | boolean | null>) => {
    const next = new URLSearchParams(search);
    for (const [name, value] of Object.entries(changes)) {
      if (value === null || value === "") next.delete(name);
      else next.set(name, String(value));
    }
    setSearch(next, { replace: true });
  };
  const get = (name: string) => search.get(name) ?? "";
  /** Some of the conditions; what the server does not understand of them it says. */
  const some = <Query>(names: readonly (keyof Query & string)[]): Partial<Query> =>
    Object.fromEntries(
      names.flatMap((name) => {
        const value = search.get(name);
        return value ? [[name, read(name, value)]] : [];
      }),
    ) as Partial<Query>;
  return { search, get, set, whose: some<Whose>(WHOSE), some };
}

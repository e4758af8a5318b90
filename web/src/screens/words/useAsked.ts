import type { Asked } from "@/api/words";
import { useAddress } from "@/app/useAddress";

type Whose = Pick<Asked, "child_id" | "on" | "sets" | "family" | "before" | "any_letters">;

/** What of the address says whose words are asked for; the same for every list of words. */
const WHOSE = ["child_id", "on", "sets", "family", "before", "any_letters"] as const;

const NUMBERS = new Set(["child_id", "sets", "least", "most", "seed", "length", "half", "count"]);
const TICKS = new Set(["before", "any_letters", "as_sound", "by_heart", "one_length", "both", "allow_drop"]);

const read = (name: string, value: string) =>
  NUMBERS.has(name) ? Number(value) : TICKS.has(name) ? value === "true" : value;

/** The conditions of a list of words: they live in the address. */
export function useAsked() {
  const { search, set } = useAddress();
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

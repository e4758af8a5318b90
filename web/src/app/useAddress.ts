import { useSearchParams } from "react-router";

export type Changes = Record<string, string | number | boolean | null>;

/**
 * What is chosen on a screen lives in its address, so that the screen can be come back to.
 * A change is laid upon the address as it is, not as it was last drawn: what was chosen a moment ago stays.
 */
export function useAddress() {
  const [search, setSearch] = useSearchParams();
  const set = (changes: Changes) => {
    const next = new URLSearchParams(window.location.search);
    for (const [name, value] of Object.entries(changes)) {
      if (value === null || value === "") next.delete(name);
      else next.set(name, String(value));
    }
    setSearch(next, { replace: true });
  };
  return { search, set };
}

/** Whether a sound stands on both sides of another (a_e): its letters are parted by typing only. */
const isSplit = (unit: string | undefined) => unit?.includes("_") ?? false;

/** Which sound a letter belongs to, by the places that the server gives. */
const soundOf = (places: number[][], letter: number) => places.findIndex((own) => own.includes(letter));

/** Whether two letters side by side are one sound, two, or part of a split one. */
export function between(units: string[], places: number[][], letter: number): "one" | "two" | "split" {
  const [here, next] = [soundOf(places, letter), soundOf(places, letter + 1)];
  if (isSplit(units[here]) || isSplit(units[next])) return "split";
  return here === next ? "one" : "two";
}

/** The sounds of a word once the two letters after and before a place are parted, or put together. */
export function tapped(units: string[], places: number[][], letter: number): string[] {
  const here = soundOf(places, letter);
  const next = soundOf(places, letter + 1);
  const unit = units[here] ?? "";
  const changed =
    here === next
      ? [
          unit.slice(0, letter + 1 - (places[here]?.[0] ?? 0)),
          unit.slice(letter + 1 - (places[here]?.[0] ?? 0)),
        ]
      : [unit + (units[next] ?? "")];
  return [...units.slice(0, here), ...changed, ...units.slice(Math.max(here, next) + 1)];
}

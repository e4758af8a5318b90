type Props = {
  text: string;
  units: string[];
  /** The units with - between them. */
  onCut: (units: string) => void;
};

/** Which letters of a word each sound is; a split one (a_e) stands around the sound after it. */
function placesOf(units: string[]): number[][] {
  const out: number[][] = [];
  let at = 0;
  let split: number[] | null = null;
  for (const unit of units) {
    const first = unit.split("_")[0] ?? "";
    const own = Array.from({ length: first.length }, (_, i) => at + i);
    out.push(own);
    at += first.length;
    if (split) {
      split.push(at);
      at += 1;
      split = null;
    }
    if (unit.includes("_")) split = own;
  }
  return out;
}

/** A word with its sounds apart; a tap between two letters parts them or puts them together. */
export function Cut({ text, units, onCut }: Props) {
  const places = placesOf(units);
  const unitOf = (letter: number) => places.findIndex((own) => own.includes(letter));
  const split = units.some((unit) => unit.includes("_"));
  const letters = [...text.toLowerCase()];
  const tap = (after: number) => {
    const apart = new Set<number>();
    for (let i = 0; i + 1 < letters.length; i++) if (unitOf(i) !== unitOf(i + 1)) apart.add(i);
    if (!apart.delete(after)) apart.add(after);
    onCut(letters.map((letter, i) => (apart.has(i) ? `${letter}-` : letter)).join(""));
  };
  return (
    <span className="inline-flex items-center text-large">
      {letters.map((letter, i) => {
        const together = unitOf(i) === unitOf(i + 1);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: letters are known by their place
          <span key={i} className="inline-flex items-center">
            <span className={places[unitOf(i)]?.length === 1 ? "" : "border-b-2 border-line"}>{text[i]}</span>
            {i + 1 < letters.length && (
              <button
                type="button"
                aria-label={`${together ? "Part" : "Join"} ${letter} and ${letters[i + 1]} in ${text}`}
                onClick={() => tap(i)}
                className="inline-flex h-8 w-4 items-center justify-center hover:bg-ochre"
              >
                <span
                  aria-hidden="true"
                  className={together ? "h-1 w-1 rounded-full bg-pale" : "h-4 border-l-2 border-mid"}
                />
              </button>
            )}
          </span>
        );
      })}
      {split && <span className="ml-3 text-small text-graphite">{units.join("-")}</span>}
    </span>
  );
}

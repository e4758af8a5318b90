import clsx from "clsx";

const SIZES = { small: "h-7 w-7", big: "h-24 w-24" };

/** Empty sound boxes, one for each sound. */
export const EmptyBoxes = ({ count, size }: { count: number; size: keyof typeof SIZES }) => (
  <span role="img" aria-label={`${count} sounds`} className="inline-flex">
    {Array.from({ length: count }, (_, i) => (
      <span
        // biome-ignore lint/suspicious/noArrayIndexKey: boxes are known by their place
        key={i}
        className={clsx("-ml-px border border-line first:ml-0", SIZES[size])}
      />
    ))}
  </span>
);

const said = (units: string[], mend: number[]) =>
  mend.length ? `${mend.map((at) => units[at]).join(", ")} to mend` : "right";

/** A word in its boxes as it was marked: what is to mend underlined, the first writing struck when it was mended. */
export function BoxesMarked({ units, tries }: { units: string[]; tries: number[][] }) {
  const [first, again] = tries;
  const open = new Set((again ?? first) as number[] | undefined);
  const words = !first
    ? "not marked"
    : again
      ? `${said(units, first)}, then ${said(units, again)}`
      : said(units, first);
  return (
    <span className="inline-flex items-center gap-2">
      <span className="sr-only">
        {units.join("-")}: {words}
      </span>
      <span aria-hidden="true" className={clsx("inline-flex", again && "relative")}>
        {units.map((unit, i) => (
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: boxes are known by their place
            key={i}
            className={clsx(
              "-ml-px inline-flex h-8 min-w-8 items-center justify-center border px-1 first:ml-0",
              !first && "border-pale text-graphite",
              first && open.has(i) && "z-10 border-2 border-brick font-bold text-brick",
              first && !open.has(i) && "border-pale",
              first?.includes(i) && !open.has(i) && "border-b-2 border-b-ink bg-ochre/40",
            )}
          >
            {unit}
          </span>
        ))}
      </span>
      <span aria-hidden="true" className="w-4 text-graphite">
        {first && !first.length && "✓"}
        {again && "2"}
      </span>
    </span>
  );
}

import clsx from "clsx";

type Props<T extends string> = {
  name: string;
  options: { value: T; words: string }[];
  chosen: T;
  onChoose: (value: T) => void;
  /** The name stands before the options, instead of being for screen readers only. */
  shown?: boolean;
};

/** A few options in a row, one of them chosen. */
export function Choice<T extends string>({ name, options, chosen, onChoose, shown = false }: Props<T>) {
  return (
    <fieldset className="flex flex-wrap items-center">
      <legend className={shown ? "float-left py-1 pr-1 text-graphite" : "sr-only"}>{name}</legend>
      {options.map((one) => (
        <label
          key={one.value}
          className={clsx(
            "cursor-pointer border-b-2 px-2 py-1 has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-line",
            one.value === chosen
              ? "border-brick font-bold"
              : "border-transparent text-graphite hover:text-ink",
          )}
        >
          <input
            type="radio"
            name={name}
            value={one.value}
            checked={one.value === chosen}
            onChange={() => onChoose(one.value)}
            className="sr-only"
          />
          {one.words}
        </label>
      ))}
    </fieldset>
  );
}

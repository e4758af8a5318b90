import clsx from "clsx";
import { type ReactNode, useEffect, useState } from "react";

/** A label over its field. */
export function Field({
  label,
  wide = false,
  children,
}: {
  label: string;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is the child
    <label className={clsx("block text-small text-graphite", wide && "min-w-56 flex-1")}>
      {label}
      <span className="block text-body text-ink">{children}</span>
    </label>
  );
}

type NumProps = {
  label: string;
  value: number;
  least: number;
  most: number;
  step?: number;
  onValue: (value: number) => void;
};

/** A number that holds once it can be meant: while it is typed it may be out of bounds. */
export function Num({ label, value, least, most, step = 1, onValue }: NumProps) {
  const [typed, setTyped] = useState(String(value));
  useEffect(() => setTyped(String(value)), [value]);
  const means = (text: string) => {
    const number = Number(text);
    return text.trim() && number >= least && number <= most ? number : null;
  };
  return (
    <Field label={label}>
      <input
        type="number"
        inputMode="decimal"
        min={least}
        max={most}
        step={step}
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          const number = means(event.target.value);
          if (number !== null && number !== value) onValue(number);
        }}
        onBlur={() => setTyped(String(value))}
        className="w-20 border-b-2 border-line bg-band px-2 py-1 tabular-nums"
      />
    </Field>
  );
}

type PickProps<T extends string> = {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onValue: (value: T) => void;
};

/** One of several, chosen from a list. */
export function Pick<T extends string>({ label, value, options, onValue }: PickProps<T>) {
  return (
    <Field label={label}>
      <select
        value={value}
        onChange={(event) => onValue(event.target.value as T)}
        className="max-w-40 border-b-2 border-line bg-band px-2 py-[5px]"
      >
        {options.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </select>
    </Field>
  );
}

type TypingProps = { label: string; value: string; most?: number; onValue: (value: string) => void };

/** Words that hold when the field is left or Enter is pressed: one step, however much was typed. */
export function Typing({ label, value, most = 400, onValue }: TypingProps) {
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);
  const keep = () => typed.trim() !== value && onValue(typed.trim());
  return (
    <Field label={label} wide>
      <input
        value={typed}
        maxLength={most}
        spellCheck={false}
        autoCapitalize="off"
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && keep()}
        className="w-full border-b-2 border-line bg-band px-2 py-1"
      />
    </Field>
  );
}

import type { ReactNode } from "react";

const LOOK =
  "mx-1 h-10 field-sizing-content min-w-12 max-w-full border-b-2 border-line bg-band px-2 text-large text-ink";

type Props = {
  /** What is chosen here, for who does not see the sentence. */
  name: string;
  value: string;
  onChange: (value: string) => void;
};

/** A place in a sentence at which one of several is chosen. */
export function Slot({ name, value, onChange, children }: Props & { children: ReactNode }) {
  return (
    <select
      aria-label={name}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className={LOOK}
    >
      {children}
    </select>
  );
}

/** A place in a sentence at which something is typed. */
export function TypedSlot({
  name,
  value,
  onChange,
  most,
  placeholder,
}: Props & { most: number; placeholder: string }) {
  return (
    <input
      aria-label={name}
      value={value}
      maxLength={most}
      placeholder={placeholder}
      autoComplete="off"
      autoCapitalize="none"
      spellCheck={false}
      onChange={(event) => onChange(event.target.value.trim())}
      className={LOOK}
    />
  );
}

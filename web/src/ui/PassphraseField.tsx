import clsx from "clsx";

type Props = {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** Whether it is known, or set by this. */
  isNew?: boolean;
  big?: boolean;
};

/** A passphrase to be typed, its name above it. */
export const PassphraseField = ({ label, value, onChange, isNew = false, big = false }: Props) => (
  <label className="mt-4 block">
    {label}
    <input
      type="password"
      autoComplete={isNew ? "new-password" : "current-password"}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className={clsx(
        "mt-1 block w-full rounded-sm border border-pale bg-sheet",
        big ? "h-14 px-4 text-large" : "h-11 px-3",
      )}
    />
  </label>
);

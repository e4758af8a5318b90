import clsx from "clsx";
import type { ButtonHTMLAttributes, ReactNode } from "react";
import { Link } from "react-router";

type Look = "plain" | "strong" | "brick" | "quiet";

const LOOKS: Record<Look, string> = {
  plain: "border border-pale bg-sheet text-ink hover:border-line",
  strong: "border border-ink bg-ink text-paper hover:bg-[#2a3c5c]",
  brick: "border border-brick bg-sheet text-brick hover:bg-[#fbf0ec]",
  quiet:
    "border border-transparent text-ink underline decoration-pale underline-offset-4 hover:decoration-ink",
};

/** How a link inside a line of text looks, to a page or to a file. */
export const LINK = "whitespace-nowrap underline decoration-pale underline-offset-4 hover:decoration-ink";

const shape = (look: Look, big: boolean, pressed?: boolean) =>
  clsx(
    "inline-flex items-center justify-center gap-2 rounded-sm whitespace-nowrap disabled:opacity-45",
    big ? "h-14 px-6 text-large" : "h-10 px-3 text-body",
    pressed ? "border border-ink bg-ochre text-ink" : LOOKS[look],
  );

/** A key cap beside a label; no text of the page, so that a button is called what it says. */
export const Key = ({ children }: { children: string }) => (
  <span
    aria-hidden="true"
    data-key={children}
    className="min-w-5 before:content-[attr(data-key)] max-[1100px]:hidden rounded-sm border border-current/30 px-1 text-center font-sans text-small leading-[18px]"
  />
);

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  look?: Look;
  big?: boolean;
  shortcut?: string;
  pressed?: boolean;
};

export function Button({
  look = "plain",
  big = false,
  shortcut,
  pressed,
  children,
  className,
  ...rest
}: Props) {
  return (
    <button
      type="button"
      aria-keyshortcuts={shortcut}
      aria-pressed={pressed}
      className={clsx(shape(look, big, pressed), className)}
      {...rest}
    >
      {children}
      {shortcut && <Key>{shortcut}</Key>}
    </button>
  );
}

export function LinkButton(props: {
  to: string;
  look?: Look;
  big?: boolean;
  children: ReactNode;
  label?: string;
}) {
  return (
    <Link to={props.to} aria-label={props.label} className={shape(props.look ?? "plain", props.big ?? false)}>
      {props.children}
    </Link>
  );
}

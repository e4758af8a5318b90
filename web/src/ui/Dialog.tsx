import clsx from "clsx";
import { Dialog as Primitive } from "radix-ui";
import { type ReactNode, useRef } from "react";
import { Button } from "./Button";

type Props = {
  title: string;
  wide?: boolean;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  children: ReactNode;
};

/** Where there is something to type, the caret stands there; elsewhere the first control has the focus. */
function toTheField(event: Event) {
  const sheet = event.currentTarget as HTMLElement;
  const field = sheet.querySelector<HTMLElement>("input:not([type=radio]):not([type=file]), textarea");
  if (!field) return;
  event.preventDefault();
  field.focus();
}

/** A sheet of paper laid over the page; Escape or Close takes it away, and the focus goes back to where it was. */
export function Dialog({ title, wide = false, open, onOpenChange, children }: Props) {
  const before = useRef<Element | null>(null);
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
      <Primitive.Portal>
        <Primitive.Overlay className="fixed inset-0 z-20 bg-ink/25" />
        <Primitive.Content
          aria-describedby={undefined}
          onOpenAutoFocus={(event) => {
            before.current = document.activeElement;
            toTheField(event);
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            (before.current as HTMLElement | null)?.focus();
          }}
          className={clsx(
            "fixed top-1/2 left-1/2 z-20 max-h-[84vh] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-sm border border-pale bg-paper p-8",
            wide ? "w-[1080px]" : "w-[560px]",
          )}
        >
          <div className="mb-4 flex items-start justify-between gap-4">
            <Primitive.Title className="text-title font-bold">{title}</Primitive.Title>
            <Primitive.Close asChild>
              <Button look="quiet">Close</Button>
            </Primitive.Close>
          </div>
          {children}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}

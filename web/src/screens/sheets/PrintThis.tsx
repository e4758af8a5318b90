import { type ReactNode, useState } from "react";
import type { Child, PrintIn } from "@/api/client";
import { pdfOf, usePrinting } from "@/api/sheets";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import type { Draft } from "./draft";

type Whom = "class" | "one" | "child";
type Props = { draft: Draft; pages: number; ready: boolean; children: ReactNode };

const named = (children: Child[]) => {
  const names = children.map((child) => child.first_name);
  return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
};

/** For whom it is printed, and printing: each child's copy has a code of its own. */
export function PrintThis({ draft, pages, ready, children }: Props) {
  const { id, children: everybody } = useClass();
  const { print } = usePrinting(id);
  const child = everybody.find((one) => one.id === draft.child);
  const [wanted, setWhom] = useState<Whom | null>(null);
  const whom = wanted ?? (child ? "child" : "class");
  const left = draft.wish.left_hand ? [] : everybody.filter((one) => one.hand === "left");
  const toClass = whom === "class" && everybody.length > 0;
  const copyFor = (one: Child) => ({
    child_id: one.id,
    wish: { ...draft.wish, left_hand: draft.wish.left_hand || one.hand === "left" },
  });
  const body: PrintIn = { name: draft.name, copies: [{ child_id: null, wish: draft.wish }] };
  if (toClass) body.copies = everybody.map(copyFor);
  else if (whom === "child" && child) body.copies = [copyFor(child)];
  const copies = body.copies.length;
  const lefties = left.length === 1 ? "gets" : "get";
  return (
    <section
      aria-label="For"
      className="sticky bottom-0 -mb-6 mt-auto border-t-2 border-ink bg-paper pt-2 pb-4 max-[1000px]:static"
    >
      <div className="flex flex-wrap items-center gap-x-4">
        <b>For</b>
        <Choice
          name="For whom"
          options={[
            ...(child ? [{ value: "child" as const, words: child.name }] : []),
            { value: "class", words: "the class" },
            { value: "one", words: "one page to copy" },
          ]}
          chosen={toClass || whom === "child" ? whom : "one"}
          onChoose={setWhom}
        />
        {toClass && left.length > 0 && (
          <span className="text-small text-graphite">
            {named(left)} {lefties} the model on the right too
          </span>
        )}
      </div>
      <div className="mt-3 flex flex-wrap items-center justify-end gap-2">
        <span className="mr-auto max-w-80 text-small text-graphite">
          {copies * pages} {copies * pages === 1 ? "page" : "pages"}
          {draft.wish.measured ? ", can be read back" : ""}. Print at 100 %, not fitted: the bar at the foot
          tells.
        </span>
        {children}
        <PrintButton disabled={!ready || print.isPending} print={() => print.mutateAsync(body)} />
      </div>
      <Printed error={print.error} code={print.data?.code} />
    </section>
  );
}

/** Opens the pages in a tab of their own, from where the browser prints them. */
export function PrintButton(props: { disabled: boolean; print: () => Promise<{ code: string }> }) {
  const press = async () => {
    const tab = window.open("", "_blank"); // before anything is waited for, or the browser blocks it
    try {
      const { code } = await props.print();
      if (tab) tab.location.href = pdfOf(code);
    } catch {
      tab?.close();
    }
  };
  return (
    <Button look="strong" disabled={props.disabled} onClick={() => void press()}>
      Print
    </Button>
  );
}

/** What became of printing: what went wrong, or where the pages are. */
export function Printed({ error, code }: { error: Error | null; code: string | undefined }) {
  if (error) {
    return (
      <p role="alert" className="mt-2 text-brick">
        {error.message}
      </p>
    );
  }
  if (!code) return null;
  return (
    <p role="status" className="mt-2">
      Laid out as sheet {code}.{" "}
      <a className="underline underline-offset-4" href={pdfOf(code)} target="_blank" rel="noreferrer">
        Its pages
      </a>{" "}
      stay under Printed before.
    </p>
  );
}

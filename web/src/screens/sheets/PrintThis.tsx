import { type ReactNode, useState } from "react";
import type { Child, PrintIn } from "@/api/client";
import { pdfOf, usePrinting } from "@/api/sheets";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import type { Draft } from "./draft";

type Whom = "class" | "one";
type Props = { draft: Draft; pages: number; ready: boolean; children: ReactNode };

const named = (children: Child[]) => {
  const names = children.map((child) => child.first_name);
  return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
};

/** For whom it is printed, and printing: each child's copy has a code of its own. */
export function PrintThis({ draft, pages, ready, children }: Props) {
  const { id, children: everybody } = useClass();
  const { print } = usePrinting(id);
  const [whom, setWhom] = useState<Whom>("class");
  const left = draft.wish.left_hand ? [] : everybody.filter((child) => child.hand === "left");
  const toClass = whom === "class" && everybody.length > 0;
  const copies = toClass ? everybody.length : 1;
  const body: PrintIn = {
    name: draft.name,
    copies: toClass
      ? everybody.map((child) => ({
          child_id: child.id,
          wish: { ...draft.wish, left_hand: draft.wish.left_hand || child.hand === "left" },
        }))
      : [{ child_id: null, wish: draft.wish }],
  };
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
            { value: "class", words: "the class" },
            { value: "one", words: "one page to copy" },
          ]}
          chosen={toClass ? "class" : "one"}
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

import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { pictureOf, useSheetPreview, useSheetSteps } from "@/api/sheets";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import type { Draft } from "./draft";

type Props = { draft: Draft; onDraft: (draft: Draft) => void };

/** Keeping the sheet under a name, and its page as a picture. */
export function KeepAndSave({ draft, onDraft }: Props) {
  const { id } = useClass();
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState("");
  const svg = useSheetPreview(id, draft.wish).data?.pages[0];
  const png = () =>
    pictureOf(id, draft.wish, 1).then(
      (picture) => download(picture, `${draft.name}.png`),
      (error: Error) => setProblem(error.message),
    );
  return (
    <>
      {problem && (
        <p role="alert" className="text-brick">
          {problem}
        </p>
      )}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>Save as…</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-10 rounded-sm border border-pale bg-paper py-1 text-ink"
          >
            {(
              [
                ["A sheet of the class, under a name", () => setOpen(true)],
                [
                  "Picture of the page (SVG)",
                  () => svg && download(new Blob([svg], { type: "image/svg+xml" }), `${draft.name}.svg`),
                ],
                ["Picture of the page (PNG)", () => void png()],
              ] as const
            ).map(([words, save]) => (
              <DropdownMenu.Item
                key={words}
                onSelect={save}
                className="block cursor-pointer px-4 py-2 outline-none data-highlighted:bg-band"
              >
                {words}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog title="Keep this sheet" open={open} onOpenChange={setOpen}>
        <Keep
          draft={draft}
          onKept={(kept) => {
            setOpen(false);
            onDraft(kept);
          }}
        />
      </Dialog>
    </>
  );
}

function Keep({ draft, onKept }: { draft: Draft; onKept: (draft: Draft) => void }) {
  const { id } = useClass();
  const steps = useSheetSteps(id);
  const [name, setName] = useState(draft.name);
  const done = (one: { id: number; name: string }) => onKept({ ...draft, name: one.name, kept: one.id });
  const error = steps.keep.error ?? steps.change.error;
  const anew = () =>
    steps.keep.mutateAsync({ name: name.trim(), wish: draft.wish }).then(done, () => undefined);
  const over = (kept: number) =>
    steps.change.mutateAsync({ id: kept, name: name.trim(), wish: draft.wish }).then(done, () => undefined);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void (draft.kept ? over(draft.kept) : anew());
      }}
    >
      <label className="block">
        Name
        <input
          value={name}
          maxLength={60}
          onChange={(event) => setName(event.target.value)}
          className="mt-1 block w-full border-b-2 border-line bg-band px-2 py-1"
        />
      </label>
      <p className="mt-2 text-small text-graphite">
        What is on it is kept, not the pages: the long date is always that of the day it is printed.
      </p>
      {error && (
        <p role="alert" className="mt-2 text-brick">
          {error.message}
        </p>
      )}
      <div className="mt-4 flex gap-2">
        <Button type="submit" look="strong" disabled={!name.trim()}>
          {draft.kept ? "Keep it as it is now" : "Keep it"}
        </Button>
        {draft.kept && (
          <Button disabled={!name.trim()} onClick={() => void anew()}>
            Keep it as another one
          </Button>
        )}
      </div>
    </form>
  );
}

function download(what: Blob, name: string) {
  const address = URL.createObjectURL(what);
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}

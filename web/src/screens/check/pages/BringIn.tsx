import { useEffect, useRef, useState } from "react";
import type { usePileSteps } from "@/api/pages";
import { useAbout } from "@/api/queries";
import { Button } from "@/ui/Button";

type Steps = ReturnType<typeof usePileSteps>;

/** Choose files with pages; in the demo, let them be written and scanned. */
export function BringIn({ steps: { bring, simulate } }: { steps: Steps }) {
  const input = useRef<HTMLInputElement>(null);
  const about = useAbout();
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Files with pages"
        accept=".pdf,.png,.jpg,.jpeg,.heic,.heif,.tif,.tiff,application/pdf,image/*"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length) bring.mutate(files);
        }}
      />
      <Button onClick={() => input.current?.click()} disabled={bring.isPending}>
        {bring.isPending ? "Bringing in…" : "Bring pages in"}
      </Button>
      {about.data?.simulated_pen && (
        <Button look="quiet" disabled={simulate.isPending} onClick={() => simulate.mutate()}>
          {simulate.isPending ? "Children write…" : "Simulated scanner"}
        </Button>
      )}
    </>
  );
}

/** Files that are let go anywhere over the page; whether some are held over it. */
export function useDropped(onFiles: (files: File[]) => void): boolean {
  const [held, setHeld] = useState(false);
  const latest = useRef(onFiles);
  latest.current = onFiles;
  useEffect(() => {
    const withFiles = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const over = (event: DragEvent) => {
      if (!withFiles(event)) return;
      event.preventDefault();
      setHeld(true);
    };
    const away = (event: DragEvent) => {
      if (event.relatedTarget === null) setHeld(false);
    };
    const drop = (event: DragEvent) => {
      if (!withFiles(event)) return;
      event.preventDefault();
      setHeld(false);
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length) latest.current(files);
    };
    window.addEventListener("dragover", over);
    window.addEventListener("dragleave", away);
    window.addEventListener("drop", drop);
    return () => {
      window.removeEventListener("dragover", over);
      window.removeEventListener("dragleave", away);
      window.removeEventListener("drop", drop);
    };
  }, []);
  return held;
}

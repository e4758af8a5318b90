import { useState } from "react";
import { asTablet } from "@/ink/fromTablet";

/** The teacher's phone: a photograph of a page goes straight into the pile of pages. */
export function PhonePage() {
  const [said, setSaid] = useState<{ words: string; trouble: boolean }[]>([]);
  const [sending, setSending] = useState(0);
  const send = async (file: File) => {
    setSending((count) => count + 1);
    try {
      const answer = await fetch(`/api/tablet/pages?name=${encodeURIComponent(file.name)}`, {
        method: "POST",
        body: file,
        headers: { ...asTablet().headers, "Content-Type": "application/octet-stream" },
      });
      const told = answer.ok ? null : ((await answer.json().catch(() => null)) as { detail?: string } | null);
      const words = answer.ok ? `${file.name} is in the pile.` : (told?.detail ?? "It could not be sent.");
      setSaid((all) => [{ words, trouble: !answer.ok }, ...all]);
    } catch {
      setSaid((all) => [
        { words: `${file.name} was not sent: no network. Send it again.`, trouble: true },
        ...all,
      ]);
    } finally {
      setSending((count) => count - 1);
    }
  };
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col gap-5 bg-paper p-6">
      <title>Pages from a phone · First Loop</title>
      <h1 className="text-title font-bold">Pages from this phone</h1>
      <p className="text-graphite">
        Lay the page flat in even light, all four corners in the picture. It is read on the school’s own
        machine and lies then among the pages that came back.
      </p>
      <label className="inline-flex h-14 cursor-pointer items-center justify-center rounded-sm border border-ink bg-ink px-6 text-large text-paper has-[:focus-visible]:outline-2">
        Photograph a page
        <input
          type="file"
          accept="image/*,application/pdf"
          capture="environment"
          multiple
          className="sr-only"
          onChange={(event) => {
            for (const file of event.target.files ?? []) void send(file);
            event.target.value = "";
          }}
        />
      </label>
      {sending > 0 && <p role="status">Sending {sending}…</p>}
      <ul aria-label="Sent" className="space-y-1">
        {said.map((one) => (
          <li key={one.words} className={one.trouble ? "text-brick" : ""}>
            {one.words}
          </li>
        ))}
      </ul>
    </main>
  );
}

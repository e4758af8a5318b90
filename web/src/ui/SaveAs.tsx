import { DropdownMenu } from "radix-ui";
import { useClass } from "@/app/school";
import { Button } from "./Button";

const FORMS = [
  ["svg", "Picture with numbered strokes (SVG)"],
  ["animated-svg", "Picture that plays by itself (SVG)"],
  ["png", "Picture (PNG)"],
  ["inkml", "Pen movement in time (InkML)"],
  ["json", "Moves as data (JSON)"],
] as const;

/** A letter or word as a file. */
export function SaveAs({ text }: { text: string }) {
  const { id } = useClass();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look="quiet">Save as…</Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-10 rounded-sm border border-pale bg-paper py-1 text-ink"
        >
          {FORMS.map(([form, words]) => (
            <DropdownMenu.Item key={form} asChild>
              <a
                href={`/api/model/file?text=${encodeURIComponent(text)}&form=${form}&class_id=${id}`}
                download
                className="block px-4 py-2 outline-none data-highlighted:bg-band"
              >
                {words}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

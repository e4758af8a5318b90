import { type ReactNode, useState } from "react";
import type { SchoolClass } from "@/api/client";
import { useArchived, useRecords } from "@/api/records";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="space-y-2 border-t-2 border-ink pt-2">
      <h2 className="font-bold">{title}</h2>
      {children}
    </section>
  );
}

export function Trouble({ error }: { error: Error | null }) {
  return error ? (
    <p role="alert" className="text-brick">
      {error.message}
    </p>
  ) : null;
}

export function FileChoice({ label, onFile }: { label: string; onFile: (file: File) => void }) {
  return (
    <label className="flex flex-wrap items-center gap-3">
      {label}
      <input
        type="file"
        accept=".zip,.age"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = "";
          if (file) onFile(file);
        }}
        className="w-full max-w-sm text-small file:mr-3 file:h-10 file:rounded-sm file:border file:border-solid file:border-pale file:bg-sheet file:px-3 file:text-body"
      />
    </label>
  );
}

/** Classes that are put away, each to be brought back. */
export function Archive() {
  const { data: away = [] } = useArchived();
  const { putAway } = useRecords();
  if (!away.length) return null;
  return (
    <Part title="Last year’s classes">
      <p>A class that is put away is kept whole and shows nowhere until it is brought back.</p>
      <Trouble error={putAway.error} />
      <ul>
        {away.map((one) => (
          <li key={one.id} className="flex items-center gap-4 border-b border-hair py-1">
            {one.name}
            <span className="text-small text-graphite">{one.children.length} children</span>
            <Button className="ml-auto" onClick={() => putAway.mutate({ classId: one.id, archived: false })}>
              Bring {one.name} back
            </Button>
          </li>
        ))}
      </ul>
    </Part>
  );
}

/** Putting the class away, asked for once more where it is the last one. */
export function PutAway({ chosen, last }: { chosen: SchoolClass; last: boolean }) {
  const { putAway } = useRecords();
  const [asked, setAsked] = useState(false);
  const away = () => putAway.mutate({ classId: chosen.id, archived: true });
  return (
    <Part title="The end of a year">
      <p>A class that is put away is kept whole and shows nowhere until it is brought back.</p>
      <Button disabled={putAway.isPending} onClick={() => (last ? setAsked(true) : away())}>
        Put {chosen.name} away
      </Button>
      <Trouble error={putAway.error} />
      <Dialog title={`Put ${chosen.name} away?`} open={asked} onOpenChange={setAsked}>
        <p>
          It is the last class that is not put away. First Loop then begins as on its first day, and offers to
          bring {chosen.name} back.
        </p>
        <Button look="strong" className="mt-4" onClick={away}>
          Put it away
        </Button>
      </Dialog>
    </Part>
  );
}

import { useState } from "react";
import { type Brought, useRecords } from "@/api/records";
import { momentFormat } from "@/app/days";
import { Button, LINK } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PassphraseField } from "@/ui/PassphraseField";
import { FileChoice, Part, Trouble } from "./parts";

const moment = momentFormat({ dateStyle: "long", timeStyle: "short" });

/** Everything in one file, open or closed with a passphrase, and back again. */
export function Backup() {
  const { check, restore } = useRecords();
  const [brought, setBrought] = useState<Brought | null>(null);
  const [closed, setClosed] = useState<File | null>(null);
  const look = (file: File, passphrase = "") => {
    restore.reset();
    const next = { file, passphrase };
    setBrought(next);
    check.mutate(next);
  };
  return (
    <Part title="Everything in one file">
      <p>
        <a className={LINK} href="/api/records/backup.zip">
          Make a backup
        </a>{" "}
        and keep it where your school keeps such files. <Sealing />
      </p>
      <p>
        A backup of every day is made by itself, in the folder backups beside the records; the last seven
        stay. It helps against a mistake, and not against the loss of this machine.
      </p>
      <FileChoice
        label="Bring one back:"
        onFile={(file) => (file.name.endsWith(".age") ? setClosed(file) : look(file))}
      />
      {check.isPending && <p className="text-graphite">Looking whether the file is whole…</p>}
      <Trouble error={check.error} />
      {restore.data && (
        <p role="status">
          Restored: {restore.data.now.children} children, {restore.data.now.attempts} letters written. What
          was here before is in the folder backups beside the records, as{" "}
          <span className="break-all">{restore.data.aside}</span>.
        </p>
      )}
      {closed && (
        <AskPassphrase
          title="This backup is closed"
          words="Open it"
          onSay={(passphrase) => {
            look(closed, passphrase);
            setClosed(null);
          }}
          onClose={() => setClosed(null)}
        />
      )}
      <Dialog
        title="Put this backup in place?"
        open={check.data !== undefined && brought !== null && !restore.data}
        onOpenChange={(open) => {
          if (open) return;
          check.reset();
          setBrought(null);
        }}
      >
        {check.data && brought && (
          <>
            <p>
              The file is whole. It was made on {moment(check.data.made_at)} and holds {check.data.classes}{" "}
              classes, {check.data.children} children and {check.data.attempts} letters written.
            </p>
            <p className="mt-2">
              It takes the place of everything that is here now. What is here now is first kept in a file of
              its own on this machine.
            </p>
            <Trouble error={restore.error} />
            <Button
              look="brick"
              className="mt-4"
              disabled={restore.isPending}
              onClick={() => restore.mutate(brought)}
            >
              Put it in place
            </Button>
          </>
        )}
      </Dialog>
    </Part>
  );
}

/** A backup that nobody opens without its passphrase: for a stick, or a place that others read too. */
function Sealing() {
  const { seal } = useRecords();
  const [open, setOpen] = useState(false);
  const made = async (passphrase: string) => {
    const blob = await seal.mutateAsync(passphrase);
    const link = document.createElement("a");
    link.href = URL.createObjectURL(blob);
    link.download = `first-loop-${new Date().toISOString().slice(0, 10)}.age`;
    link.click();
    URL.revokeObjectURL(link.href);
    setOpen(false);
  };
  return (
    <>
      <button type="button" className={LINK} onClick={() => setOpen(true)}>
        Close one with a passphrase
      </button>{" "}
      before it leaves this machine.
      {open && (
        <AskPassphrase
          title="A backup with a passphrase"
          words="Make it"
          twice
          pending={seal.isPending}
          error={seal.error}
          onSay={(passphrase) => void made(passphrase).catch(() => {})}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

type AskProps = {
  title: string;
  words: string;
  twice?: boolean;
  pending?: boolean;
  error?: Error | null;
  onSay: (passphrase: string) => void;
  onClose: () => void;
};

function AskPassphrase(props: AskProps) {
  const [said, setSaid] = useState("");
  const [again, setAgain] = useState("");
  const ready = said && (!props.twice || said === again) && !props.pending;
  return (
    <Dialog title={props.title} open onOpenChange={(open) => !open && props.onClose()}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) props.onSay(said);
        }}
      >
        {props.twice && (
          <p className="mb-4">
            Nobody opens the file without it, First Loop neither: write it down somewhere else. Any tool for
            age files opens it too.
          </p>
        )}
        <PassphraseField label="Passphrase" value={said} onChange={setSaid} isNew={props.twice ?? false} />
        {props.twice && <PassphraseField label="Once more" value={again} onChange={setAgain} isNew />}
        <Trouble error={props.error ?? null} />
        <div className="mt-4 text-right">
          <Button look="strong" type="submit" disabled={!ready}>
            {props.words}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

import { useState } from "react";
import { useDoor, useDoorSteps } from "@/api/door";
import { useAudit } from "@/api/records";
import { momentFormat } from "@/app/days";
import { NewWords } from "@/screens/door/Door";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PassphraseField } from "@/ui/PassphraseField";
import { Part, Trouble } from "./parts";

const moment = momentFormat({ day: "numeric", month: "long", hour: "2-digit", minute: "2-digit" });
const SHOWN = 8;

/** Who did what, kept for 400 days: it names children by their numbers only, and outlasts a restore. */
export function WhoDidWhat() {
  const { data = [] } = useAudit();
  const [open, setOpen] = useState(false);
  return (
    <Part title="Who did what">
      <p>
        Who opened a child’s page, changed, took out or erased something is kept for 400 days, apart from the
        records.
      </p>
      <Lines lines={data.slice(0, SHOWN)} />
      {data.length > SHOWN && <Button onClick={() => setOpen(true)}>All of it</Button>}
      <Dialog wide title="Who did what" open={open} onOpenChange={setOpen}>
        <Lines lines={data} />
      </Dialog>
    </Part>
  );
}

const Lines = ({ lines }: { lines: { at: string; says: string }[] }) => (
  <ul>
    {lines.map((one) => (
      <li key={`${one.at} ${one.says}`} className="flex gap-4 border-b border-hair py-1 text-small">
        <span className="w-40 shrink-0 text-graphite">{moment(one.at)}</span>
        {one.says}
      </li>
    ))}
  </ul>
);

/** The teacher's own door, where First Loop is reached over a network. */
export function OwnDoor() {
  const { data } = useDoor();
  const { leave, change } = useDoorSteps();
  const [open, setOpen] = useState(false);
  const [passphrase, setPassphrase] = useState("");
  const [following, setFollowing] = useState("");
  if (!data?.needed) return null;
  return (
    <Part title="The door">
      <p>
        Whoever knows the passphrase reads and changes everything here. A session ends by itself after eight
        hours; end it when you leave this device to others.
      </p>
      <div className="flex gap-3">
        <Button look="strong" onClick={() => leave.mutate()}>
          Leave
        </Button>
        <Button onClick={() => setOpen(true)}>Another passphrase</Button>
      </div>
      <Dialog title="Another passphrase" open={open} onOpenChange={setOpen}>
        {change.data ? (
          <NewWords words={change.data.words} onDone={() => window.location.reload()} />
        ) : (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              change.mutate({ passphrase, following });
            }}
          >
            <PassphraseField label="The one that holds now" value={passphrase} onChange={setPassphrase} />
            <PassphraseField
              label="The new one: four or five words that have nothing to do with each other"
              value={following}
              onChange={setFollowing}
              isNew
            />
            <Trouble error={change.error} />
            <div className="mt-4 text-right">
              <Button look="strong" type="submit" disabled={!passphrase || !following || change.isPending}>
                Set it
              </Button>
            </div>
          </form>
        )}
      </Dialog>
    </Part>
  );
}

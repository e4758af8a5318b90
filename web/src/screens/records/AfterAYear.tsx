import { useState } from "react";
import { useKeepAfterAYear, useRetention } from "@/api/records";
import { dayFormat } from "@/app/days";
import { Button, LINK } from "@/ui/Button";
import { Part, Trouble } from "./parts";

const day = dayFormat({ dateStyle: "long" });
const LEAST = 30;

/** How long children are kept once their class is put away: for ever, unless the school says otherwise. */
export function AfterAYear() {
  const kept = useRetention().data;
  const keep = useKeepAfterAYear();
  const [typed, setTyped] = useState<string | null>(null);
  if (!kept) return null;
  const days = typed ?? (kept.days === null ? "" : String(kept.days));
  const wanted = days === "" ? null : Number(days);
  const fine = wanted === null || wanted >= LEAST;
  return (
    <Part title="How long a class that is put away is kept">
      <p>
        For ever, unless your school has a rule. Where it has, write the days here: after them the children of
        such a class and all they wrote are erased for good, here and in the backups made on this machine.
        Nobody goes within two weeks of setting this.
      </p>
      <form
        className="flex flex-wrap items-center gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(wanted, { onSuccess: () => setTyped(null) });
        }}
      >
        <label className="flex items-center gap-3">
          Days after it was put away
          <input
            type="number"
            min={LEAST}
            max={36500}
            value={days}
            placeholder="for ever"
            onChange={(event) => setTyped(event.target.value)}
            className="h-10 w-28 rounded-sm border border-pale bg-sheet px-2"
          />
        </label>
        <Button type="submit" disabled={!fine || wanted === kept.days || keep.isPending}>
          {wanted === null ? "Keep for ever" : "Keep so long"}
        </Button>
      </form>
      <Trouble error={keep.error} />
      {kept.leaving.map((one) => (
        <p key={one.id} className="border-l-4 border-ochre pl-3">
          {one.name}: {one.children} children are erased on {day(one.on)}.{" "}
          <a className={LINK} href="/api/records/backup.zip">
            Take a file out before
          </a>
        </p>
      ))}
    </Part>
  );
}

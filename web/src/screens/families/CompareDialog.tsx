import { useState } from "react";
import type { Alphabet, SchemeKey } from "@/api/client";
import { useCompared } from "@/api/queries";
import { useClass } from "@/app/school";
import { Dialog } from "@/ui/Dialog";
import { Loaded } from "@/ui/States";
import { SCHEMES } from "./schemes";

type Props = {
  scheme: SchemeKey;
  alphabet: Alphabet;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

/** Which letters change company from this scheme to another, and why. */
export function CompareDialog({ scheme, alphabet, open, onOpenChange }: Props) {
  const others = SCHEMES.filter((one) => one.value !== scheme && one.value !== "by-sound");
  const [other, setOther] = useState<SchemeKey>(others[0]?.value as SchemeKey);
  return (
    <Dialog title="Compare" open={open} onOpenChange={onOpenChange}>
      <label className="block">
        <span className="text-small text-graphite">These families against</span>
        <select
          value={other}
          onChange={(event) => setOther(event.target.value as SchemeKey)}
          className="h-10 w-full border-b-2 border-line bg-band px-2"
        >
          {others.map((one) => (
            <option key={one.value} value={one.value}>
              {one.words}
            </option>
          ))}
        </select>
      </label>
      <Moved scheme={scheme} other={other} alphabet={alphabet} />
    </Dialog>
  );
}

function Moved({ scheme, other, alphabet }: { scheme: SchemeKey; other: SchemeKey; alphabet: Alphabet }) {
  const { id } = useClass();
  const query = useCompared(id, scheme, other, alphabet);
  return (
    <Loaded query={query} what="the comparison">
      {(moved) => (
        <table className="mt-4 w-full border-collapse text-small">
          <thead>
            <tr className="border-b border-ink text-left">
              <th scope="col" className="w-10">
                Letter
              </th>
              <th scope="col">Here</th>
              <th scope="col">There</th>
              <th scope="col">Because</th>
            </tr>
          </thead>
          <tbody>
            {moved.map((one) => (
              <tr key={one.letter} className="border-b border-hair align-top">
                <th scope="row" className="text-left text-large">
                  {one.letter}
                </th>
                <td className="pt-1 pr-2">{one.before}</td>
                <td className="pt-1 pr-2">{one.after}</td>
                <td className="pt-1 text-graphite">{one.reason}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Loaded>
  );
}

import { useState } from "react";
import type { Alphabet, FamilyBoard, SchemeKey } from "@/api/client";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { RuleField } from "./RuleField";

type Props = {
  board: FamilyBoard;
  scheme: SchemeKey;
  alphabet: Alphabet;
  open: boolean;
  error: Error | null;
  onOpenChange: (open: boolean) => void;
  onAdd: (name: string, rule: string) => void;
};

export function NewFamilyDialog({ board, scheme, alphabet, open, error, onOpenChange, onAdd }: Props) {
  const [name, setName] = useState("");
  const [rule, setRule] = useState("");
  return (
    <Dialog wide title="New family" open={open} onOpenChange={onOpenChange}>
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          onAdd(name, rule);
        }}
      >
        <label className="block">
          <span className="text-small text-graphite">Name</span>
          <input
            required
            maxLength={40}
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="mt-1 h-10 w-full border-b-2 border-line bg-band px-2"
          />
        </label>
        <RuleField board={board} scheme={scheme} alphabet={alphabet} value={rule} onChange={setRule} />
        {error && (
          <p role="alert" className="text-brick">
            {error.message}
          </p>
        )}
        <Button type="submit" look="strong">
          Add the family
        </Button>
      </form>
    </Dialog>
  );
}

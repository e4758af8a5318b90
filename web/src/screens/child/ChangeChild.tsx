import { type FormEvent, useState } from "react";
import { useChildSteps } from "@/api/classes";
import type { Child } from "@/api/client";
import { useSchool } from "@/app/school";
import { HandChoice, NameFields } from "@/screens/class/AddChildren";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

/** What a child is called, its hand, and which class it is in. */
export function ChangeChild(props: { child: Child; open: boolean; onOpenChange: (open: boolean) => void }) {
  const { child, open, onOpenChange } = props;
  const { classes, choose } = useSchool();
  const { change } = useChildSteps();
  const [first, setFirst] = useState(child.first_name);
  const [initial, setInitial] = useState(child.initial);
  const [hand, setHand] = useState(child.hand);
  const [classId, setClassId] = useState(child.class_id);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate(
      { id: child.id, body: { first_name: first.trim(), initial: initial.trim(), hand, class_id: classId } },
      {
        onSuccess: () => {
          if (classId !== child.class_id) choose(classId); // the page goes with the child
          onOpenChange(false);
        },
      },
    );
  };
  return (
    <Dialog title={`Change ${child.name}`} open={open} onOpenChange={onOpenChange}>
      <form className="space-y-4" onSubmit={submit}>
        <NameFields first={first} initial={initial} onFirst={setFirst} onInitial={setInitial} />
        <HandChoice hand={hand} onChoose={setHand} />
        {classes.length > 1 && (
          <label className="block">
            Class
            <select
              value={classId}
              onChange={(event) => setClassId(Number(event.target.value))}
              className="mt-1 h-10 w-full rounded-sm border border-pale bg-sheet px-2"
            >
              {classes.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
            <span className="text-small text-graphite">
              Everything {child.first_name} has written goes along.
            </span>
          </label>
        )}
        {change.error && (
          <p role="alert" className="text-brick">
            {change.error.message}
          </p>
        )}
        <Button look="strong" type="submit" disabled={change.isPending}>
          Change
        </Button>
      </form>
    </Dialog>
  );
}

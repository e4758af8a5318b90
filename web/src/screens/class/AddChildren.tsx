import { type FormEvent, type Ref, useRef, useState } from "react";
import { type ChildIn, type NamesRead, useChildSteps } from "@/api/classes";
import type { Child } from "@/api/client";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";

const FIELD = "mt-1 h-10 w-full border-b-2 border-line bg-band px-2";
const WAYS = [
  { value: "one", words: "One by one" },
  { value: "list", words: "A list of names" },
] as const;
type Way = (typeof WAYS)[number]["value"];

const counted = (count: number) => (count === 1 ? "1 child" : `${count} children`);

/** Children come into a class: one by one, or a whole list at once. */
export function AddChildren({
  open,
  onOpenChange,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const [way, setWay] = useState<Way>("one");
  return (
    <Dialog title="Add children" open={open} onOpenChange={onOpenChange}>
      <p className="text-graphite">
        First name and initial only: no surnames, no birthdays. Of a surname in a list only the initial is
        kept.
      </p>
      <div className="my-4">
        <Choice name="How" options={[...WAYS]} chosen={way} onChoose={setWay} />
      </div>
      {way === "one" ? <OneByOne /> : <List onDone={() => onOpenChange(false)} />}
    </Dialog>
  );
}

const Problem = ({ error }: { error: Error | null }) =>
  error && (
    <p role="alert" className="text-brick">
      {error.message}
    </p>
  );

function OneByOne() {
  const { id } = useClass();
  const { add } = useChildSteps();
  const [first, setFirst] = useState("");
  const [initial, setInitial] = useState("");
  const [hand, setHand] = useState<Child["hand"]>("right");
  const field = useRef<HTMLInputElement>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate(
      { classId: id, children: [{ first_name: first.trim(), initial, hand }] },
      {
        onSuccess: () => {
          setFirst("");
          setInitial("");
          setHand("right");
          field.current?.focus();
        },
      },
    );
  };
  return (
    <form className="space-y-4" onSubmit={submit}>
      <NameFields first={first} initial={initial} onFirst={setFirst} onInitial={setInitial} field={field} />
      <HandChoice hand={hand} onChoose={setHand} />
      <Problem error={add.error} />
      <div className="flex items-center gap-4">
        <Button look="strong" type="submit" disabled={add.isPending}>
          Add
        </Button>
        <p role="status">{add.data && `${add.data[0]?.name} is in the class.`}</p>
      </div>
    </form>
  );
}

type NameProps = {
  first: string;
  initial: string;
  onFirst: (first: string) => void;
  onInitial: (initial: string) => void;
  field?: Ref<HTMLInputElement>;
};

export const NameFields = ({ first, initial, onFirst, onInitial, field }: NameProps) => (
  <div className="grid grid-cols-[1fr_96px] gap-4">
    <label>
      First name
      <input
        ref={field}
        required
        maxLength={40}
        autoComplete="off"
        value={first}
        onChange={(event) => onFirst(event.target.value)}
        className={FIELD}
      />
    </label>
    <label>
      Initial
      <input
        required
        maxLength={12}
        autoComplete="off"
        value={initial}
        onChange={(event) => onInitial(event.target.value)}
        className={FIELD}
      />
    </label>
  </div>
);

export function HandChoice({
  hand,
  onChoose,
}: {
  hand: Child["hand"];
  onChoose: (hand: Child["hand"]) => void;
}) {
  return (
    <fieldset className="flex gap-4">
      <legend className="float-left mr-4">Writes with the</legend>
      {(["right", "left"] as const).map((one) => (
        <label key={one} className="flex items-center gap-2">
          <input type="radio" name="hand" checked={hand === one} onChange={() => onChoose(one)} />
          {one} hand
        </label>
      ))}
    </fieldset>
  );
}

function List({ onDone }: { onDone: () => void }) {
  const { id } = useClass();
  const { read, add } = useChildSteps();
  const [text, setText] = useState("");
  const look = (list: string) => {
    setText(list);
    add.reset();
    if (list.trim()) read.mutate({ classId: id, text: list });
    else read.reset();
  };
  const found = text.trim() ? read.data : undefined;
  const addAll = (children: ChildIn[]) => add.mutate({ classId: id, children }, { onSuccess: onDone });
  return (
    <div className="space-y-4">
      <label className="block">
        One child a line: first name, initial or surname, and “left” for a left hand
        <textarea
          rows={6}
          value={text}
          placeholder={"Wilf A\nNell Crane, left"}
          onChange={(event) => look(event.target.value)}
          className="mt-1 w-full border-b-2 border-line bg-band p-2"
        />
      </label>
      <label className="block">
        or a file:{" "}
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          onChange={async (event) => {
            const file = event.target.files?.[0];
            if (file) look(await file.text());
          }}
        />
      </label>
      {found && <Found found={found} />}
      <Problem error={read.error ?? add.error} />
      <Button
        look="strong"
        disabled={!found?.names.length || add.isPending || read.isPending}
        onClick={() =>
          found && addAll(found.names.map(({ first_name, initial, hand }) => ({ first_name, initial, hand })))
        }
      >
        {found?.names.length ? `Add ${counted(found.names.length)}` : "Add"}
      </Button>
    </div>
  );
}

/** What a list would add, and which lines are no names, each with why. */
const Found = ({ found }: { found: NamesRead }) => (
  <div role="status" className="space-y-2">
    {found.names.length > 0 && (
      <ul aria-label="Children found" className="columns-3 gap-4">
        {found.names.map((one) => (
          <li key={one.line}>
            {one.first_name} {one.initial}
            {one.hand === "left" && <span className="text-small text-graphite"> left hand</span>}
          </li>
        ))}
      </ul>
    )}
    {found.unread.length > 0 && (
      <ul aria-label="Lines that could not be read" className="border-l-4 border-ochre pl-3 text-small">
        {found.unread.map((one) => (
          <li key={one.line}>
            Line {one.line}
            {one.text && `, “${one.text}”`}: {one.why}
          </li>
        ))}
      </ul>
    )}
  </div>
);

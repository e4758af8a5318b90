import { useState } from "react";
import type { Alphabet, Family, FamilyBoard, FamilyChange, FamilyPart, SchemeKey } from "@/api/client";
import { useParts, usePartsAsWanted } from "@/api/queries";
import { useClass } from "@/app/school";
import { sheetAddress } from "@/screens/sheets/address";
import { Button, LinkButton } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Loaded } from "@/ui/States";
import { RuleField } from "./RuleField";

type Props = {
  family: Family;
  board: FamilyBoard;
  scheme: SchemeKey;
  alphabet: Alphabet;
  error: Error | null;
  onChange: (change: FamilyChange) => void;
  onClose: () => void;
};

const FIELD = "h-10 w-full border-b-2 border-line bg-band px-2";

/** Name, rule, merging and splitting of one family. */
export function FamilyDialog(props: Props) {
  const { family, board, scheme, alphabet, error, onChange, onClose } = props;
  const others = board.families.filter((one) => one.key !== family.key);
  const [name, setName] = useState(family.name);
  const [rule, setRule] = useState(family.rule);
  const [into, setInto] = useState(others[0]?.key ?? "");
  return (
    <Dialog wide title={family.name} open onOpenChange={(on) => !on && onClose()}>
      <div className="space-y-5">
        {error && (
          <p role="alert" className="text-brick">
            {error.message}
          </p>
        )}
        {family.members.length > 0 && (
          <LinkButton to={sheetAddress({ letters: family.members.map((one) => one.drawing.char).join(" ") })}>
            Sheet for it
          </LinkButton>
        )}
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            onChange({ action: "rename", family: family.key, name });
          }}
        >
          <label className="flex-1">
            <span className="text-small text-graphite">Name</span>
            <input
              required
              maxLength={40}
              value={name}
              onChange={(event) => setName(event.target.value)}
              className={FIELD}
            />
          </label>
          <Button type="submit">Rename</Button>
        </form>
        <form
          className="space-y-2"
          onSubmit={(event) => {
            event.preventDefault();
            onChange({ action: "rule", family: family.key, rule });
          }}
        >
          <RuleField
            board={board}
            scheme={scheme}
            alphabet={alphabet}
            family={family.key}
            value={rule}
            onChange={setRule}
          />
          <Button type="submit">Use this rule</Button>
        </form>
        {others.length > 0 && (
          <form
            className="flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              onChange({ action: "merge", family: family.key, into });
            }}
          >
            <label className="flex-1">
              <span className="text-small text-graphite">Merge into</span>
              <select value={into} onChange={(event) => setInto(event.target.value)} className={FIELD}>
                {others.map((one) => (
                  <option key={one.key} value={one.key}>
                    {one.name}
                  </option>
                ))}
              </select>
            </label>
            <Button type="submit">Merge</Button>
          </form>
        )}
        {family.members.length > 2 && <Splitting {...props} />}
      </div>
    </Dialog>
  );
}

/** How the family would be split, and why; a letter may be put into another part before it is done. */
function Splitting({ family, scheme, alphabet, onChange }: Props) {
  const { id } = useClass();
  const count = family.members.length;
  const [most, setMost] = useState(Math.ceil(count / 2));
  const query = useParts(id, scheme, alphabet, family.key, most);
  return (
    <section aria-label="Split" className="border-t border-hair pt-3">
      <label className="flex items-center gap-2">
        Split into parts of at most
        <input
          type="number"
          min={1}
          max={count - 1}
          value={most}
          onChange={(event) => setMost(Math.max(1, Math.min(count - 1, Number(event.target.value) || 1)))}
          className="h-10 w-16 border-b-2 border-line bg-band px-2"
        />
        letters
      </label>
      <Loaded query={query} what="the parts">
        {(parts) => (
          <Parts
            key={parts.map((part) => part.letters.join("")).join(" ")}
            parts={parts}
            family={family.key}
            scheme={scheme}
            alphabet={alphabet}
            onSplit={(chosen) => onChange({ action: "split", family: family.key, parts: chosen })}
          />
        )}
      </Loaded>
    </section>
  );
}

type PartsProps = {
  parts: FamilyPart[];
  family: string;
  scheme: SchemeKey;
  alphabet: Alphabet;
  onSplit: (parts: string[][]) => void;
};

function Parts({ parts, family, scheme, alphabet, onSplit }: PartsProps) {
  const { id } = useClass();
  const [chosen, setChosen] = useState(parts.map((part) => part.letters));
  const wanted = chosen.map((letters) => letters.join(""));
  const changed = wanted.join(" ") !== parts.map((part) => part.letters.join("")).join(" ");
  const asWanted = usePartsAsWanted(id, scheme, alphabet, family, changed ? wanted : []);
  const told = changed ? asWanted.data : parts;
  const toNext = (letter: string, from: number) => {
    const to = (from + 1) % chosen.length;
    setChosen(
      chosen.map((letters, i) =>
        i === from ? letters.filter((one) => one !== letter) : i === to ? [...letters, letter] : letters,
      ),
    );
  };
  return (
    <>
      <ol className="mt-2 space-y-2">
        {chosen.map((letters, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a part is known by its number
          <li key={i}>
            <div className="flex items-center gap-1">
              <span className="w-16 text-small text-graphite">Part {i + 1}</span>
              {letters.map((letter) => (
                <Button
                  key={letter}
                  className="min-w-10 text-large"
                  aria-label={`${letter}: to the next part`}
                  onClick={() => toNext(letter, i)}
                >
                  {letter}
                </Button>
              ))}
            </div>
            <p className="text-small text-graphite">{told?.[i]?.reason}</p>
          </li>
        ))}
      </ol>
      <Button
        className="mt-2"
        disabled={chosen.length < 2 || chosen.some((letters) => !letters.length)}
        onClick={() => onSplit(chosen)}
      >
        Split like this
      </Button>
    </>
  );
}

import { useState } from "react";
import type { HandOut, RoomSeen } from "@/api/client";
import { useDictations } from "@/api/dictations";
import { LetterChoice } from "@/screens/write/ChooseRow";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { DictatedChoice, offeredWord } from "./DictatedChoice";

type What = "letter" | "own" | "words" | "dictated";
type Props = {
  room: RoomSeen;
  /** What is offered first: a letter, or words. */
  letter: string;
  text: string;
  /** The dictation that is offered first. */
  dictation: number | null;
  open: boolean;
  pending: boolean;
  onClose: () => void;
  onHandOut: (what: HandOut) => void;
};

const WHAT: { value: What; words: string }[] = [
  { value: "letter", words: "A row of one letter" },
  { value: "own", words: "Each child its own letter" },
  { value: "words", words: "Words" },
  { value: "dictated", words: "A word they hear" },
];

/** What is written next, by all who have a tablet or by some of them. */
export function HandOutDialog(props: Props) {
  return (
    <Dialog wide title="Hand out" open={props.open} onOpenChange={(on) => !on && props.onClose()}>
      <Choosing {...props} />
    </Dialog>
  );
}

function Choosing({ room, letter: first, text: words, dictation, pending, onHandOut }: Props) {
  const here = room.children.filter((one) => one.tablet_id !== null);
  const [what, setWhat] = useState<What>(dictation ? "dictated" : words ? "words" : "letter");
  const [said, setSaid] = useState<HandOut["dictated"]>();
  const dictations = useDictations(room.class_id).data ?? [];
  const dictated = said ?? offeredWord(room, dictation, dictations);
  const [letter, setLetter] = useState<string | null>(first || null);
  const [text, setText] = useState(words);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set()); // who gets nothing this time
  const chosen = here.filter((one) => !left.has(one.child.id)).map((one) => one.child.id);
  const given: HandOut = {
    letter: what === "letter" ? (letter ?? "") : "",
    text: what === "words" ? text.trim() : "",
    dictated: what === "dictated" ? dictated : null,
    child_ids: left.size ? chosen : null,
  };
  const ready =
    chosen.length > 0 && (what === "own" || Boolean(given.letter || given.text || given.dictated));
  const turn = (id: number) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };
  return (
    <>
      <Choice name="What" options={WHAT} chosen={what} onChoose={setWhat} />
      {what === "letter" && <LetterChoice classId={room.class_id} chosen={letter} onChoose={setLetter} />}
      {what === "own" && (
        <p className="mt-4 text-graphite">
          Each gets a letter that slipped back, or else one that is being learned; who has begun none gets the
          first.
        </p>
      )}
      {what === "words" && (
        <label className="mt-4 block">
          A word, or a line of words
          <input
            value={text}
            maxLength={40}
            onChange={(event) => setText(event.target.value)}
            className="mt-1 block h-11 w-full rounded-sm border border-pale bg-sheet px-3 text-large"
          />
        </label>
      )}
      {what === "dictated" && <DictatedChoice dictations={dictations} chosen={dictated} onChoose={setSaid} />}
      <fieldset className="mt-5">
        <legend className="border-t-2 border-ink pt-2 font-bold">To whom</legend>
        <div className="mt-1 grid grid-cols-6 gap-x-4 gap-y-1 max-[1100px]:grid-cols-4">
          {here.map(({ child }) => (
            <label key={child.id} className="flex items-center gap-2">
              <input type="checkbox" checked={!left.has(child.id)} onChange={() => turn(child.id)} />
              {child.first_name}
            </label>
          ))}
        </div>
      </fieldset>
      <div className="mt-5 flex items-center justify-end gap-4">
        <p className="text-small text-graphite">What is under a pen is ended and kept.</p>
        <Button look="strong" disabled={!ready || pending} onClick={() => onHandOut(given)}>
          Hand it out
        </Button>
      </div>
    </>
  );
}

import { useState } from "react";
import type { Decision, Finding, LetterResult, PagePlace, PageSeen } from "@/api/client";
import { Bead, WORDS } from "@/ui/Bead";
import { Button, LINK } from "@/ui/Button";

type Acting = "letter" | "draw" | null;

type Props = {
  place: PagePlace;
  page: PageSeen;
  acting: Acting;
  setActing: (acting: Acting) => void;
  decide: (decision: Decision) => void;
  onUndo: () => void;
  onWatch?: (() => void) | undefined;
};

/** What is said of a place, and putting it right by one key. */
export function Decide({ place, page, acting, setActing, decide, onUndo, onWatch }: Props) {
  const open = !page.agreed;
  return (
    <>
      {place.letter && <LetterSaid letter={place.letter} onWatch={onWatch} />}
      {place.group && <GroupSaid place={place} />}
      {!place.letter && !place.group && <p className="py-3 text-graphite">{nothingSaid(place)}</p>}
      {acting === "letter" && <AnotherText place={place} onSay={(expected) => decide({ expected })} />}
      {open && (
        <div className="mt-auto flex flex-wrap gap-2 pt-3">
          <Button shortcut="A" pressed={place.decided} onClick={() => decide({})}>
            This is right
          </Button>
          <Button
            shortcut="L"
            pressed={acting === "letter"}
            onClick={() => setActing(acting === "letter" ? null : "letter")}
          >
            {place.expected.length === 1 ? "Another letter" : "Other words"}
          </Button>
          <Button
            shortcut="C"
            pressed={place.found === "crossed-out"}
            onClick={() => decide({ found: place.found === "crossed-out" ? "ink" : "crossed-out" })}
          >
            Crossed out
          </Button>
          <Button
            shortcut="E"
            pressed={place.found === "empty"}
            onClick={() =>
              decide({ found: place.found === "empty" && place.strokes.length ? "ink" : "empty" })
            }
          >
            Empty
          </Button>
          <Button
            shortcut="D"
            pressed={acting === "draw"}
            onClick={() => setActing(acting === "draw" ? null : "draw")}
          >
            Draw the line
          </Button>
          <Button shortcut="U" disabled={!page.can_undo} onClick={onUndo}>
            Undo
          </Button>
        </div>
      )}
    </>
  );
}

function nothingSaid(place: PagePlace): string {
  if (place.found === "empty") return "Nothing was written here.";
  if (place.found === "crossed-out") return "Crossed out: it is shown, and counts for nothing.";
  return "Nothing could be made of what is here. Say what it is, or draw the line.";
}

const HEADINGS = ["direction", "shape", "size"] as const;
const TITLES = { direction: "Direction", shape: "Shape", size: "Size" };
const mm = (value: number) => value.toFixed(1);

function sizeSaid({ measures: m }: LetterResult): string {
  return m.height_mm === null ? "" : `${mm(m.height_mm)} mm tall.`;
}

type LetterSaidProps = { letter: LetterResult; onWatch?: (() => void) | undefined };

function LetterSaid({ letter, onWatch }: LetterSaidProps) {
  return (
    <div className="grid grid-cols-3 gap-6 max-[1100px]:gap-4">
      {HEADINGS.map((name) => {
        const found = letter.findings.filter((one) => one.heading === name);
        return (
          <section key={name} aria-label={TITLES[name]} className="border-t-2 border-ink pt-2">
            <h2 className="flex items-center gap-2 font-bold">
              <Bead verdict={letter.headings[name]} silent />
              {TITLES[name]}
              <span className="ml-auto text-small font-normal text-graphite">
                {WORDS[letter.headings[name]]}
              </span>
            </h2>
            {name === "direction" ? (
              <p className="py-1 text-small text-graphite">
                On paper the way of the pen does not show.{" "}
                {onWatch && (
                  <button type="button" className={LINK} aria-keyshortcuts="O" onClick={onWatch}>
                    Watch on paper
                  </button>
                )}
              </p>
            ) : (
              <Findings
                findings={found}
                also={name === "size" ? sizeSaid(letter) : `Reads as ${letter.reads_as}.`}
              />
            )}
          </section>
        );
      })}
    </div>
  );
}

function Findings({ findings, also }: { findings: Finding[]; also: string }) {
  return (
    <div className="py-1 text-small">
      {findings.map((one) => (
        <p
          key={`${one.code} ${one.stroke} ${one.move}`}
          className={one.severity === "fix" ? "font-bold" : ""}
        >
          {one.teacher}
        </p>
      ))}
      <p className="text-graphite">{also}</p>
    </div>
  );
}

function GroupSaid({ place }: { place: PagePlace }) {
  return (
    <ul className="border-t-2 border-ink pt-2 text-small">
      {place.to_say.map((one) => (
        <li key={`${one.of} ${one.teacher}`}>
          <b>{one.of}</b> {one.teacher}
        </li>
      ))}
      {!place.to_say.length && <li>Every letter is secure and the room between them is even.</li>}
      {(place.support === "trace" || place.support === "finish") && (
        <li className="text-graphite">Words that were traced stay with the page.</li>
      )}
    </ul>
  );
}

/** It is another letter, or other words, than the sheet asked for: then it is judged as that. */
function AnotherText({ place, onSay }: { place: PagePlace; onSay: (text: string) => void }) {
  const [text, setText] = useState("");
  const single = place.expected.length === 1;
  return (
    <form
      className="flex items-center gap-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onSay(text.trim());
      }}
    >
      <label className="flex items-center gap-2">
        {single ? "It is the letter" : "It says"}
        <input
          // biome-ignore lint/a11y/noAutofocus: it was just asked for, by a key
          autoFocus
          value={text}
          maxLength={single ? 1 : 120}
          onChange={(event) => setText(event.target.value)}
          className="h-10 w-40 rounded-sm border border-pale bg-sheet px-2 text-large"
        />
      </label>
      <Button type="submit" disabled={!text.trim()}>
        Judge it so
      </Button>
    </form>
  );
}

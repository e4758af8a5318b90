import clsx from "clsx";
import { useEffect, useState } from "react";
import type { Alphabet, Child, SchoolClass, Support } from "@/api/client";
import { useFamilies, useRows } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { type Draft, drafts, dropDraft } from "@/ink/shelf";
import { centred, Glyph } from "@/line/Letter";
import { Lines } from "@/line/Strip";
import { ALPHABETS } from "@/screens/families/FamiliesScreen";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Empty, Loaded } from "@/ui/States";
import { ChooseWord } from "./ChooseWord";
import { Start } from "./Start";
import { useStartRow } from "./useStartRow";

const KINDS: [Support, string][] = [
  ["trace", "to trace"],
  ["finish", "to finish"],
  ["ring", "from a ring"],
  ["alone", "alone"],
];

/** How a row of the class goes: "6 letters: 2 to trace, 1 to finish, 3 alone". */
function rowOf({ pattern, fill_line, layered }: SchoolClass): string {
  const some = KINDS.map(([kind, words]) => ({ count: pattern.filter((one) => one === kind).length, words }));
  const said = some.filter(({ count }) => count).map(({ count, words }) => `${count} ${words}`);
  const count = fill_line ? "until the line is full" : `${pattern.length} letters`;
  return `${count}: ${said.join(", ")}${layered ? ", on top of one another" : ""}`;
}

/** Who writes what: a child and a letter, then the row starts. */
export function ChooseRow() {
  const chosen = useClass();
  const { search, set } = useAddress();
  const child = chosen.children.find((one) => one.id === Number(search.get("child")));
  const letter = search.get("letter");
  const start = useStartRow(child && letter ? { child_id: child.id, letter } : null);
  const words = search.get("what") === "words";
  if (!chosen.children.length) {
    return (
      <>
        <PageHead title="Write" />
        <Empty title="There are no children in this class yet">
          <LinkButton to="/class">Add the first child</LinkButton>
        </Empty>
      </>
    );
  }
  return (
    <>
      <PageHead crowded title="Write" sub={words ? "a word, or a line of words" : rowOf(chosen)}>
        <Choice
          name="What"
          options={[
            { value: "row", words: "A row of one letter" },
            { value: "words", words: "Words" },
          ]}
          chosen={words ? "words" : "row"}
          onChoose={(value) => set({ what: value })}
        />
        <LinkButton look="quiet" to="/write/room">
          On tablets
        </LinkButton>
      </PageHead>
      <h2 className="border-t-2 border-ink pt-2 font-bold">Who writes?</h2>
      <div role="radiogroup" aria-label="Child" className="mt-2 mb-5 grid grid-cols-6 gap-2">
        {chosen.children.map((one) => (
          <ChildChoice
            key={one.id}
            child={one}
            chosen={one.id === child?.id}
            onChoose={() => set({ child: one.id })}
          />
        ))}
      </div>
      {words ? (
        <ChooseWord
          child={child}
          cautions={
            <>
              <Cautions child={child} />
              <UnderThePen />
            </>
          }
        />
      ) : (
        <>
          <h2 className="border-t-2 border-ink pt-2 font-bold">Which letter?</h2>
          <LetterChoice classId={chosen.id} chosen={letter} onChoose={(char) => set({ letter: char })} />
          <Cautions child={child} />
          <Begun classId={chosen.id} />
          <UnderThePen />
          <Start
            refused={start.error?.message}
            says={child && letter ? `${child.name}, a row of ${letter}` : "Choose a child and a letter."}
            words="Start the row"
            disabled={!child || !letter || start.isPending}
            onStart={() => start.mutate()}
          />
        </>
      )}
    </>
  );
}

const CHOICE = "rounded-sm border text-left hover:border-line aria-checked:border-ink aria-checked:bg-ochre";

function ChildChoice({ child, chosen, onChoose }: { child: Child; chosen: boolean; onChoose: () => void }) {
  return (
    <button
      type="button"
      role="radio"
      aria-checked={chosen}
      aria-label={child.hand === "left" ? `${child.name}, left hand` : child.name}
      onClick={onChoose}
      className={clsx(CHOICE, "flex h-11 items-center border-pale bg-sheet px-3")}
    >
      <span className={chosen ? "font-bold" : ""}>{child.name}</span>
      {child.hand === "left" && <span className="ml-auto text-small text-graphite">left</span>}
    </button>
  );
}

const alphabetOf = (char: string | null): Alphabet =>
  !char || /[a-z]/.test(char) ? "lower case" : /[A-Z]/.test(char) ? "capitals" : "digits";

export function LetterChoice(props: {
  classId: number;
  chosen: string | null;
  onChoose: (char: string) => void;
}) {
  const [alphabet, setAlphabet] = useState(alphabetOf(props.chosen));
  const query = useFamilies(props.classId, alphabet);
  return (
    <>
      <div className="mt-2">
        <Choice
          name="Alphabet"
          options={ALPHABETS.filter(({ value }) => value !== "marks")}
          chosen={alphabet}
          onChoose={setAlphabet}
        />
      </div>
      <Loaded query={query} what="the letters">
        {(scheme) => (
          <div role="radiogroup" aria-label="Letter" className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
            {scheme.families.map((family) => (
              <div key={family.key}>
                <p className="text-small text-graphite">{family.name}</p>
                <div className="flex gap-1">
                  {family.members.map(({ drawing }) => (
                    <button
                      key={drawing.char}
                      type="button"
                      role="radio"
                      aria-checked={drawing.char === props.chosen}
                      aria-label={drawing.char}
                      onClick={() => props.onChoose(drawing.char)}
                      className={clsx(CHOICE, "border-transparent")}
                    >
                      <svg viewBox="-90 -225 180 350" className="h-[92px]" aria-hidden="true">
                        <Lines from={-90} to={90} />
                        <Glyph letter={drawing} x={centred(drawing, 0)} weight={12} />
                      </svg>
                    </button>
                  ))}
                </div>
              </div>
            ))}
          </div>
        )}
      </Loaded>
    </>
  );
}

const LATEST = 12;
const SHOWN = 4; // what is above stays on the page

/** Rows that were left before they were full: nothing in them is lost, and they can be gone on with. */
function Begun({ classId }: { classId: number }) {
  const { data } = useRows({ class_id: classId, limit: LATEST });
  const begun = (data ?? []).filter((row) => !row.finished).slice(0, SHOWN);
  if (!begun.length) return null;
  return (
    <section aria-label="Rows begun" className="mt-5">
      <h2 className="border-t border-hair pt-2 text-small text-graphite">Begun and not finished</h2>
      <ul className="mt-1 flex flex-wrap gap-2">
        {begun.map((row) => (
          <li key={row.id}>
            <LinkButton to={`/write/${row.id}`}>
              {row.child.name}, {row.letter}: {row.verdicts.length} written
            </LinkButton>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Letters and words that were under the pen when their page was left, on this device. */
function UnderThePen() {
  const [left, setLeft] = useState<Draft[]>([]);
  useEffect(() => {
    drafts().then(setLeft, () => setLeft([]));
  }, []);
  if (!left.length) return null;
  return (
    <section aria-label="Under the pen" className="mt-5">
      <h2 className="border-t border-hair pt-2 text-small text-graphite">
        Still under the pen on this device
      </h2>
      <ul className="mt-1 flex flex-wrap gap-4">
        {left.map((one) => (
          <li key={one.page} className="flex items-center gap-1">
            <LinkButton to={one.address}>Go on: {one.what}</LinkButton>
            <Button
              look="quiet"
              aria-label={`Throw away: ${one.what}`}
              onClick={async () => {
                await dropDraft(one.page);
                setLeft((all) => all.filter(({ page }) => page !== one.page));
              }}
            >
              Throw away
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What keeps writing from hurting, said before it begins. */
function Cautions({ child }: { child: Child | undefined }) {
  const left = child?.hand === "left";
  return (
    <p className="mt-5 border-l-4 border-ochre pl-3 text-small text-graphite">
      Feet flat, table at elbow height, a light grip. Paper tilted to the{" "}
      {left ? "right, and the hand below the line" : "left"}. Shake the hand out between rows. If it hurts,
      stop; if it keeps hurting, ask someone qualified.
    </p>
  );
}

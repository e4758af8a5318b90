import { useEffect, useRef, useState } from "react";
import { createPortal } from "react-dom";
import type { Alphabet, Family, SchemeKey } from "@/api/client";
import { useBoardSteps, useFamilies } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { useKeys } from "@/app/useKeys";
import { Button, LinkButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Loaded } from "@/ui/States";
import { useCarrying } from "@/ui/useCarrying";
import { CompareDialog } from "./CompareDialog";
import { FamilyDialog } from "./FamilyDialog";
import { FamilyStrip } from "./FamilyStrip";
import { NewFamilyDialog } from "./NewFamilyDialog";
import { Sounds } from "./Sounds";
import { SCHEMES } from "./schemes";

export const ALPHABETS: { value: Alphabet; words: string }[] = [
  { value: "lower case", words: "Lower case" },
  { value: "capitals", words: "Capitals" },
  { value: "digits", words: "Digits" },
  { value: "marks", words: "Marks" },
];

/** The families of a scheme as strips of letters; arranged by hand they become the class's own. */
export function FamiliesScreen() {
  const { id, style } = useClass();
  const { search, set } = useAddress();
  const scheme = SCHEMES.find((one) => one.value === search.get("scheme"))?.value ?? "by-movement";
  const alphabet = ALPHABETS.find((one) => one.value === search.get("alphabet"))?.value ?? "lower case";
  const [tools, setTools] = useState<HTMLDivElement | null>(null);
  return (
    <>
      <PageHead crowded title="Families" sub={style.name}>
        <LinkButton look="quiet" to="/style">
          House style
        </LinkButton>
        <LinkButton look="quiet" to="/differences">
          Where schools differ
        </LinkButton>
        <a
          className="text-body underline decoration-pale underline-offset-4 hover:decoration-ink"
          href={`/api/letters.svg?class_id=${id}&alphabet=${encodeURIComponent(alphabet)}`}
          target="_blank"
          rel="noreferrer"
        >
          Wall sheet
        </a>
      </PageHead>
      {/* the options stay where they are, and keep the focus, whatever board comes below them */}
      <div className="mb-2 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice
          name="By"
          shown
          options={SCHEMES}
          chosen={scheme}
          onChoose={(value) => set({ scheme: value })}
        />
        {scheme !== "by-sound" && (
          <Choice
            name="Alphabet"
            options={ALPHABETS}
            chosen={alphabet}
            onChoose={(value) => set({ alphabet: value })}
          />
        )}
        <div ref={setTools} className="ml-auto" />
      </div>
      {scheme === "by-sound" ? (
        <Sounds />
      ) : (
        <FamilyBoard key={`${id} ${scheme} ${alphabet}`} scheme={scheme} alphabet={alphabet} tools={tools} />
      )}
    </>
  );
}

type BoardProps = { scheme: SchemeKey; alphabet: Alphabet; tools: HTMLElement | null };

/** The class's board; its toolbar stands in `tools`, beside what chooses the board. */
function FamilyBoard({ scheme, alphabet, tools }: BoardProps) {
  const { id } = useClass();
  const query = useFamilies(id, alphabet, scheme);
  const steps = useBoardSteps(id, scheme, alphabet);
  const [arranging, setArranging] = useState(false);
  const [edited, setEdited] = useState<Family | null>(null);
  const [open, setOpen] = useState<"new" | "compare" | null>(null);
  const carrying = useCarrying((letter, family, before) =>
    steps.change.mutate({ action: "move", letter, family, before }),
  );
  const carryingFamily = useCarrying((moved, onto) => {
    const order = (query.data?.families ?? []).map((one) => one.key);
    putFamily(moved, order.indexOf(onto));
  });
  const focusOn = useRef<string | null>(null);
  const families = query.data?.families;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was moved by keys keeps the focus when the board has changed
  useEffect(() => {
    if (focusOn.current) document.querySelector<HTMLElement>(focusOn.current)?.focus();
    focusOn.current = null;
  }, [families]);
  const moveLetter = (letter: string, family: string, before: string | undefined) => {
    focusOn.current = `[data-letter="${CSS.escape(letter)}"]`;
    steps.change.mutate({ action: "move", letter, family, ...(before !== undefined && { before }) });
  };
  const putFamily = (moved: string, to: number) => {
    const order = (families ?? []).map((one) => one.key).filter((key) => key !== moved);
    if (to < 0 || to > order.length) return;
    focusOn.current = `[data-family="${CSS.escape(moved)}"] [data-handle]`;
    steps.change.mutate({ action: "order", families: [...order.slice(0, to), moved, ...order.slice(to)] });
  };
  const undo = () => query.data?.can_undo && steps.undo.mutate();
  useKeys({ u: undo });
  const error = steps.change.error ?? steps.undo.error;
  return (
    <Loaded query={query} what="the families">
      {(board) => (
        <>
          {tools &&
            createPortal(
              <div role="toolbar" aria-label="Board" className="flex items-center gap-2">
                {arranging && <Button onClick={() => setOpen("new")}>New family</Button>}
                <Button pressed={arranging} onClick={() => setArranging((on) => !on)}>
                  Arrange
                </Button>
                <Button disabled={!board.can_undo} onClick={undo}>
                  Undo
                </Button>
                <Button onClick={() => setOpen("compare")}>Compare</Button>
              </div>,
              tools,
            )}
          {arranging && (
            <p className="mb-1 text-small text-graphite">
              Drag a letter, or use the arrow keys on it: ← → along its family, ↑ ↓ to another. A family is
              moved by the name it has. A letter moved by hand is underlined.
            </p>
          )}
          <div className="flex flex-1 flex-col justify-between">
            {board.families.map((family, index) => (
              <FamilyStrip
                key={family.key}
                family={family}
                arranging={arranging}
                names={board.families}
                carrying={carrying}
                carryingFamily={carryingFamily}
                onStep={(letter, by) => {
                  const next = board.families[index + by];
                  if (next) moveLetter(letter, next.key, undefined);
                }}
                onAlong={(letter, by) => {
                  const chars = family.members.map(({ drawing }) => drawing.char);
                  const to = chars.indexOf(letter) + by;
                  if (to < 0 || to >= chars.length) return;
                  moveLetter(letter, family.key, chars[by > 0 ? to + 1 : to] ?? "");
                }}
                onPut={(by) => putFamily(family.key, index + by)}
                onBack={(letter) => steps.change.mutate({ action: "move", letter })}
                onEdit={() => setEdited(family)}
              />
            ))}
          </div>
          {error && (
            <p role="alert" className="mt-2 text-brick">
              {error.message}
            </p>
          )}
          {edited && (
            <FamilyDialog
              family={edited}
              board={board}
              scheme={scheme}
              alphabet={alphabet}
              onChange={(change) => {
                steps.change.mutate(change, { onSuccess: () => setEdited(null) });
              }}
              error={steps.change.error}
              onClose={() => {
                steps.change.reset();
                setEdited(null);
              }}
            />
          )}
          <NewFamilyDialog
            board={board}
            scheme={scheme}
            alphabet={alphabet}
            open={open === "new"}
            error={steps.change.error}
            onOpenChange={(on) => setOpen(on ? "new" : null)}
            onAdd={(name, rule) =>
              steps.change.mutate({ action: "add", name, rule }, { onSuccess: () => setOpen(null) })
            }
          />
          <CompareDialog
            scheme={scheme}
            alphabet={alphabet}
            open={open === "compare"}
            onOpenChange={(on) => setOpen(on ? "compare" : null)}
          />
        </>
      )}
    </Loaded>
  );
}

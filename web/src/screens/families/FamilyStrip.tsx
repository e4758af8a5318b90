import clsx from "clsx";
import { Link } from "react-router";
import type { Family, Member } from "@/api/client";
import { inAddress } from "@/api/queries";
import { centred, Glyph } from "@/line/Letter";
import { Lines } from "@/line/Strip";
import { Button } from "@/ui/Button";
import type { Carrying } from "@/ui/useCarrying";

type Props = {
  family: Family;
  arranging: boolean;
  names: Family[];
  carrying: Carrying;
  carryingFamily: Carrying;
  /** A letter goes to the family before or after. */
  onStep: (letter: string, by: 1 | -1) => void;
  /** A letter goes along its own family. */
  onAlong: (letter: string, by: 1 | -1) => void;
  /** The family goes up or down. */
  onPut: (by: 1 | -1) => void;
  onBack: (letter: string) => void;
  onEdit: () => void;
};

const CELL = 300;
const CELLS_LEAST = 10;

/** One family: its name and rule, and its letters on the lines. */
export function FamilyStrip(props: Props) {
  const { family, arranging, carrying, carryingFamily, onEdit, onPut } = props;
  const heading = `family-${family.key}`;
  const cells = Math.max(CELLS_LEAST, family.members.length);
  const target =
    (carrying.carried !== null && carrying.over === family.key) ||
    (carryingFamily.carried !== null && carryingFamily.over === family.key);
  return (
    <section
      aria-labelledby={heading}
      data-family={family.key}
      className={clsx(
        "grid grid-cols-[272px_minmax(0,1fr)] items-center gap-4 border-b border-hair py-[3px] max-[900px]:grid-cols-1 max-[900px]:gap-1",
        target && "bg-ochre/40",
      )}
    >
      <div>
        <div className="flex items-center justify-between">
          <h2 id={heading} className="font-bold">
            {arranging ? (
              <button
                type="button"
                data-handle
                title={`Drag ${family.name}, or press ↑ or ↓`}
                aria-keyshortcuts="ArrowUp ArrowDown"
                className="cursor-grab touch-none rounded-sm font-bold hover:bg-ochre/35"
                onPointerDown={(event) => carryingFamily.pick(family.key, family.key, event)}
                onKeyDown={(event) => {
                  if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
                  event.preventDefault();
                  onPut(event.key === "ArrowDown" ? 1 : -1);
                }}
              >
                {family.name}
              </button>
            ) : (
              family.name
            )}
          </h2>
          {arranging && (
            <Button look="quiet" className="h-6!" onClick={onEdit} aria-label={`Change ${family.name}`}>
              Change
            </Button>
          )}
        </div>
        <p className="text-small text-graphite">{family.words}</p>
      </div>
      <div className="relative">
        <svg viewBox={`0 -242 ${CELL * cells} 354`} className="block max-h-[132px] w-full" aria-hidden="true">
          <Lines from={0} to={CELL * cells} />
          {family.members.map((member, i) => (
            <OneLetter key={member.drawing.char} member={member} middle={CELL * (i + 0.5)} />
          ))}
        </svg>
        <ul className="absolute inset-0 grid" style={{ gridTemplateColumns: `repeat(${cells}, 1fr)` }}>
          {family.members.map((member) => (
            <li key={member.drawing.char}>
              {arranging ? <Movable {...props} member={member} /> : <ToPage member={member} />}
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

function OneLetter({ member, middle }: { member: Member; middle: number }) {
  const { drawing, ring, by_hand } = member;
  const x = centred(drawing, middle);
  return (
    <g>
      <Glyph letter={drawing} x={x} weight={11} />
      <circle
        cx={x + (ring[0] ?? 0)}
        cy={ring[1] ?? 0}
        r={11}
        fill="var(--color-paper)"
        stroke="var(--color-brick)"
        strokeWidth={5}
      />
      {by_hand && (
        <line x1={middle - 80} x2={middle + 80} y1={88} y2={88} stroke="var(--color-brick)" strokeWidth={8} />
      )}
    </g>
  );
}

const ToPage = ({ member }: { member: Member }) => (
  <Link
    to={`/letters/${inAddress(member.drawing.char)}`}
    aria-label={`${member.drawing.char}. ${member.reason}`}
    title={member.reason}
    className="block h-full rounded-sm hover:bg-ochre/35"
  />
);

/** A letter that can be carried, stepped with the arrow keys, and sent back to its rule. */
function Movable({ member, family, carrying, names, onStep, onAlong, onBack }: Props & { member: Member }) {
  const char = member.drawing.char;
  const rule = names.find((one) => one.key === member.by_rule)?.name;
  const hint = member.by_hand && rule ? `${member.reason} Delete sends it back to ${rule}.` : member.reason;
  return (
    <button
      type="button"
      data-letter={char}
      aria-label={`Move ${char}. ${hint}`}
      title={hint}
      onPointerDown={(event) => carrying.pick(char, family.key, event)}
      onKeyDown={(event) => {
        if (event.key === "ArrowDown") onStep(char, 1);
        else if (event.key === "ArrowUp") onStep(char, -1);
        else if (event.key === "ArrowRight") onAlong(char, 1);
        else if (event.key === "ArrowLeft") onAlong(char, -1);
        else if (event.key === "Delete" && member.by_hand) onBack(char);
        else return;
        event.preventDefault();
      }}
      className={clsx(
        "block h-full w-full cursor-grab touch-none rounded-sm hover:bg-ochre/35",
        carrying.carried?.letter === char && "bg-ochre",
      )}
    />
  );
}

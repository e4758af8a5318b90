import { useState } from "react";
import type { Alphabet, Family, SchemeKey } from "@/api/client";
import { useCompared, useFamilies } from "@/api/queries";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { Lines, RISE, XH } from "@/line/Strip";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Loaded } from "@/ui/States";
import { SCHEMES } from "./schemes";

type Props = {
  scheme: SchemeKey;
  alphabet: Alphabet;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

const CELL = 190;
const STRIP = 3 * XH + 60;
const ROW = STRIP + 70;
const NAME = 660;

/** The letters in their strips, moving from the strips of this scheme to those of another and back. */
export function CompareDialog({ scheme, alphabet, open, onOpenChange }: Props) {
  const others = SCHEMES.filter((one) => one.value !== scheme && one.value !== "by-sound");
  const [other, setOther] = useState<SchemeKey>(others[0]?.value as SchemeKey);
  const [there, setThere] = useState(false);
  const nameOf = (key: SchemeKey) => `By ${SCHEMES.find((one) => one.value === key)?.words ?? key}`;
  return (
    <Dialog wide title="Compare" open={open} onOpenChange={onOpenChange}>
      <div className="flex flex-wrap items-end gap-3">
        <Button pressed={!there} onClick={() => setThere(false)}>
          {nameOf(scheme)}
        </Button>
        <Button pressed={there} onClick={() => setThere(true)}>
          {nameOf(other)}
        </Button>
        <label className="ml-auto flex items-center gap-2 text-small text-graphite">
          Against
          <select
            value={other}
            onChange={(event) => {
              setOther(event.target.value as SchemeKey);
              setThere(true);
            }}
            className="h-10 border-b-2 border-line bg-band px-2 text-body text-ink"
          >
            {others.map((one) => (
              <option key={one.value} value={one.value}>
                {one.words}
              </option>
            ))}
          </select>
        </label>
      </div>
      <Moving scheme={scheme} other={other} alphabet={alphabet} there={there} />
    </Dialog>
  );
}

type Place = { x: number; y: number };

/** Where every letter of a board stands: family under family, letter beside letter. */
const placesOf = (families: Family[]) =>
  new Map<string, Place>(
    families.flatMap((family, row) =>
      family.members.map(({ drawing }, i): [string, Place] => [
        drawing.char,
        { x: NAME + CELL * (i + 0.5), y: row * ROW },
      ]),
    ),
  );

type MovingProps = { scheme: SchemeKey; other: SchemeKey; alphabet: Alphabet; there: boolean };

function Moving({ scheme, other, alphabet, there }: MovingProps) {
  const { id } = useClass();
  const here = useFamilies(id, alphabet, scheme);
  const second = useFamilies(id, alphabet, other);
  const moved = useCompared(id, scheme, other, alphabet);
  const [told, setTold] = useState<string | null>(null);
  const boards = [here.data, second.data];
  const [first, last] = boards;
  const why = moved.data?.find((one) => one.letter === told);
  if (!first || !last)
    return (
      <Loaded query={here.data ? second : here} what="the families">
        {() => null}
      </Loaded>
    );
  const shown = there ? last : first;
  const places = placesOf(shown.families);
  const most = Math.max(
    ...[first, last].flatMap((one) => one.families.map((family) => family.members.length)),
  );
  const rows = Math.max(first.families.length, last.families.length);
  const width = NAME + CELL * most;
  const parted = new Set(moved.data?.filter((one) => one.parts).map((one) => one.letter));
  return (
    <>
      <p aria-live="polite" className="mt-3 min-h-12">
        {why ? (
          <>
            <b>{why.letter}</b>: {why.before}, then {why.after}. {why.reason}
          </>
        ) : (
          <span className="text-graphite">
            {parted.size === 0
              ? "Every family stays together."
              : `${parted.size} letters go another way than most of their family: they are underlined.`}{" "}
            Point at a letter to see why it stands there.
          </span>
        )}
      </p>
      <svg viewBox={`0 ${RISE - 30} ${width} ${rows * ROW}`} className="block max-h-[58vh] w-full">
        <title>{`Letters by ${there ? last.name : first.name}`}</title>
        {shown.families.map((family, row) => (
          <g key={family.key} transform={`translate(0 ${row * ROW})`}>
            <text x={0} y={-30} fontSize={64} fill="var(--color-ink)">
              {family.name}
            </text>
            <g transform={`translate(${NAME} 0)`}>
              <Lines from={0} to={CELL * most} />
            </g>
          </g>
        ))}
        {first.families.flatMap((family) =>
          family.members.map(({ drawing }) => {
            const { char } = drawing;
            const at = places.get(char) ?? { x: 0, y: 0 };
            return (
              <g
                key={char}
                role="button"
                tabIndex={0}
                aria-label={char}
                onPointerEnter={() => setTold(char)}
                onFocus={() => setTold(char)}
                className="motion-safe:transition-transform motion-safe:duration-1000"
                style={{ transform: `translate(${at.x}px, ${at.y}px)` }}
              >
                <rect
                  x={-CELL / 2}
                  y={RISE}
                  width={CELL}
                  height={3 * XH}
                  fill={told === char ? "var(--color-ochre)" : "transparent"}
                  fillOpacity={0.5}
                />
                <Glyph letter={drawing} x={centred(drawing, 0)} weight={12} />
                {parted.has(char) && (
                  <line x1={-60} x2={60} y1={88} y2={88} stroke="var(--color-brick)" strokeWidth={8} />
                )}
              </g>
            );
          }),
        )}
      </svg>
    </>
  );
}

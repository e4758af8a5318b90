import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, Navigate, useParams } from "react-router";
import type { Alphabet, LetterModel } from "@/api/client";
import { inAddress, letterQuery, useFamilies, useLetter } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { useClock } from "@/ink/useClock";
import { centred, Glyph, widthOf } from "@/line/Letter";
import { MovingLetter } from "@/line/MovingLetter";
import { Patter } from "@/line/Patter";
import { Strip } from "@/line/Strip";
import { ALPHABETS } from "@/screens/families/FamiliesScreen";
import { sheetAddress } from "@/screens/sheets/address";
import { Button, LinkButton } from "@/ui/Button";
import { SaveAs } from "@/ui/SaveAs";
import { Loaded } from "@/ui/States";
import { ClassRecord } from "./ClassRecord";

const SPEEDS = [
  { name: "Very slow", factor: 0.35 },
  { name: "Slow", factor: 0.6 },
  { name: "Steady", factor: 1 },
  { name: "Brisk", factor: 1.6 },
];
const STRIP = 1120;

/** One letter, played by a moving pen. */
export function LetterScreen() {
  const { char: address } = useParams();
  const char = address === "full-stop" ? "." : address;
  const { id } = useClass();
  const query = useLetter(char ?? "l", id);
  if (!char) return <Navigate to="/letters/l" replace />;
  return (
    <>
      <PageHead
        title={`Letter ${char}`}
        sub={query.data && `${query.data.family_name.toLowerCase()} · ${query.data.band}`}
      >
        <LinkButton to={`/write?letter=${encodeURIComponent(char)}`}>Write {char}</LinkButton>
        <LinkButton look="quiet" to={`/board?text=${encodeURIComponent(char)}`}>
          On the board
        </LinkButton>
        <LinkButton look="quiet" to={sheetAddress({ letters: char })}>
          Sheet for it
        </LinkButton>
        <SaveAs text={char} />
      </PageHead>
      <LetterPicker key={query.data?.alphabet} chosen={char} alphabet={query.data?.alphabet as Alphabet} />
      <Loaded query={query} what={`the letter ${char}`}>
        {(letter) => <Demonstration key={letter.char} letter={letter} />}
      </Loaded>
      <ClassRecord char={char} />
    </>
  );
}

/** All letters in teaching order, family by family. */
function LetterPicker({ chosen, alphabet }: { chosen: string; alphabet?: Alphabet }) {
  const { id } = useClass();
  const [shown, setShown] = useState<Alphabet>(alphabet ?? "lower case");
  const { data } = useFamilies(id, shown);
  if (!data) return <div className="h-16" />;
  return (
    <nav
      aria-label="Letters"
      className="mb-2 flex h-16 justify-between max-[900px]:h-auto max-[900px]:flex-wrap gap-2"
    >
      <label className="self-center">
        <span className="sr-only">Alphabet</span>
        <select
          value={shown}
          onChange={(event) => setShown(event.target.value as Alphabet)}
          className="h-9 w-[100px] rounded-sm border border-pale bg-sheet px-1 text-small"
        >
          {ALPHABETS.map((one) => (
            <option key={one.value} value={one.value}>
              {one.words}
            </option>
          ))}
        </select>
      </label>
      {data.families.map((family) => (
        <ul key={family.key} aria-label={family.name} className="flex border-b border-hair">
          {family.members.map(({ drawing }) => (
            <li key={drawing.char}>
              <Link
                to={`/letters/${inAddress(drawing.char)}`}
                aria-label={drawing.char}
                aria-current={drawing.char === chosen ? "page" : undefined}
                className="block rounded-sm hover:bg-ochre/35 aria-[current=page]:bg-ochre"
              >
                <svg
                  viewBox={`${centred(drawing, 0) * -1 - 85} -235 170 370`}
                  className="h-[60px] w-[25px]"
                  aria-hidden="true"
                >
                  <Glyph letter={drawing} x={0} weight={13} />
                </svg>
              </Link>
            </li>
          ))}
        </ul>
      ))}
    </nav>
  );
}

const allMoves = (letter: LetterModel) => letter.strokes.flatMap((stroke) => stroke.moves);

function Demonstration({ letter }: { letter: LetterModel }) {
  const [speed, setSpeed] = useState(SPEEDS[2]);
  const stops = allMoves(letter).map((move) => move.to_ms);
  const clock = useClock(letter.duration_ms, speed?.factor ?? 1, stops);
  const forward = () => clock.seek(stops.find((stop) => stop > clock.at + 1) ?? letter.duration_ms);
  const back = () => clock.seek(stops.findLast((stop) => stop < clock.at - 1) ?? 0);
  const middle = centred(letter, 250);
  useKeys({ " ": clock.toggle, ArrowRight: forward, ArrowLeft: back, r: clock.repeat });
  return (
    <>
      <Strip
        width={STRIP}
        above={46}
        below={44}
        named
        label={`${letter.char} on the four lines`}
        className="block w-full"
        texts={[{ x: middle, boxed: letter.boxed }]}
      >
        <MovingLetter letter={letter} at={clock.at} x={middle} />
        <Beside letter={letter} />
      </Strip>
      <div role="toolbar" aria-label="Pen" className="mt-3 flex flex-wrap items-center gap-2">
        <Button look="strong" className="w-32" shortcut="Space" onClick={clock.toggle}>
          {clock.playing ? "Pause" : "Play"}
        </Button>
        <Button shortcut="←" aria-label="One move back" onClick={back}>
          Back
        </Button>
        <Button shortcut="→" aria-label="One move on" onClick={forward}>
          On
        </Button>
        <Button shortcut="R" onClick={clock.repeat}>
          Repeat
        </Button>
        <fieldset className="ml-auto flex items-center gap-1">
          <legend className="float-left mr-2 text-small text-graphite">Speed</legend>
          {SPEEDS.map((one) => (
            <Button key={one.name} pressed={one === speed} onClick={() => setSpeed(one)}>
              {one.name}
            </Button>
          ))}
        </fieldset>
      </div>
      <div className="mt-4 grid grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-8 max-[900px]:grid-cols-1">
        <Patter letter={letter} at={clock.at} onSay={(ms) => clock.seek(ms)} />
        <Facts letter={letter} />
      </div>
    </>
  );
}

const HOW: Record<LetterModel["look_alikes"][number]["how"], string> = {
  "as-it-stands": "as it stands",
  mirrored: "in the mirror",
  turned: "turned round",
  stem: "but for the stem",
};

/** Letters that are easily taken for this one, on the same strip. */
function Beside({ letter }: { letter: LetterModel }) {
  const { id } = useClass();
  const client = useQueryClient();
  const [others, setOthers] = useState<LetterModel[]>([]);
  useEffect(() => {
    let gone = false;
    Promise.all(letter.look_alikes.map((one) => client.fetchQuery(letterQuery(one.letter, id))))
      .then((found) => !gone && setOthers(found))
      .catch(() => setOthers([]));
    return () => {
      gone = true;
    };
  }, [letter, id, client]);
  if (!others.length) return null;
  const middle = (i: number) => 570 + i * 146;
  return (
    <g>
      <line x1={470} x2={470} y1={-225} y2={110} stroke="var(--color-hair)" strokeWidth={1.5} />
      <text x={486} y={-212} fontSize={14} fill="var(--color-graphite)">
        easily taken for
      </text>
      {others.map((other, i) => (
        <g key={other.char}>
          <Glyph letter={other} x={centred(other, middle(i))} colour="var(--color-mid)" weight={8} />
          <text x={middle(i)} y={132} fontSize={13} textAnchor="middle" fill="var(--color-graphite)">
            {HOW[letter.look_alikes[i]?.how ?? "as-it-stands"]}
          </text>
        </g>
      ))}
    </g>
  );
}

const WIDTHS: [most: number, words: string][] = [
  [0.3, "A single stroke wide."],
  [0.7, "A good deal narrower than a small letter is high."],
  [0.92, "A little narrower than a small letter is high."],
  [1.08, "As wide as a small letter is high."],
  [1.35, "A little wider than a small letter is high."],
];

/** How wide a letter is, against the height of a small one. */
const inWords = (width: number) =>
  WIDTHS.find(([most]) => width < most)?.[1] ?? "A good deal wider than a small letter is high.";

function Facts({ letter }: { letter: LetterModel }) {
  const wide = inWords(widthOf(letter) / letter.units);
  return (
    <section aria-label="About this letter" className="space-y-2 border-t-2 border-ink pt-3">
      <p>
        <span className="font-bold">{letter.family_name}.</span> {letter.reason}
      </p>
      <p className="text-graphite">
        {letter.strokes.length === 1
          ? "One stroke, no pen lift."
          : `${letter.strokes.length} strokes, ${letter.strokes.length - 1} pen lift${letter.strokes.length > 2 ? "s" : ""}.`}{" "}
        {letter.band[0]?.toUpperCase() + letter.band.slice(1)}. {wide}
      </p>
      {letter.stepping_stone && (
        <p className="text-graphite">
          Made most like{" "}
          <Link
            className="font-bold text-ink underline underline-offset-4"
            to={`/letters/${letter.stepping_stone}`}
          >
            {letter.stepping_stone}
          </Link>
          , which comes before it.
        </p>
      )}
    </section>
  );
}

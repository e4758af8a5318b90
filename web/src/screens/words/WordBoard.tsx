import clsx from "clsx";
import { type ReactNode, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { DrawnWord, Gap, LetterDrawing, Ring, SortWord } from "@/api/client";
import { useDictation } from "@/api/dictations";
import { type Rings, useRings } from "@/api/words";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { useKeys } from "@/app/useKeys";
import { Glyph, INK, widthOf } from "@/line/Letter";
import { Lines } from "@/line/Strip";
import { EmptyBoxes } from "@/screens/dictation/Boxes";
import { Button } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { useGapsAsked } from "./FitsPart";
import { useSortAsked } from "./SortsPart";
import { useAsked } from "./useAsked";

/** A ring, words with a gap, or a sort for the whole room, one step at a time. */
export function WordBoard() {
  const { kind } = useParams();
  const { search, set } = useAddress();
  const navigate = useNavigate();
  const dark = search.get("look") === "dark";
  const turn = () => set({ look: dark ? null : "dark" });
  useKeys({ d: turn });
  return (
    <main className={clsx("flex min-h-full flex-col bg-paper px-6 pt-4 pb-4 text-ink", dark && "board-dark")}>
      <title>Board · First Loop</title>
      <h1 className="sr-only">Words on the board</h1>
      <header className="flex flex-wrap items-center gap-2">
        <div className="ml-auto flex gap-2">
          <Button shortcut="D" pressed={dark} onClick={turn}>
            Dark
          </Button>
          <Button
            look="quiet"
            onClick={() =>
              navigate(kind === "dictation" ? `/dictation/${search.get("id")}` : `/words/${kind}?${search}`)
            }
          >
            Close the board
          </Button>
        </div>
      </header>
      <Kind kind={kind} />
    </main>
  );
}

function Kind({ kind }: { kind: string | undefined }) {
  if (kind === "rings") return <RingBoard />;
  if (kind === "fits") return <GapBoard />;
  return kind === "dictation" ? <BoxBoard /> : <SortBoard />;
}

type StepsProps = {
  at: number;
  most: number;
  onStep: (step: (now: number) => number) => void;
  children?: ReactNode;
};

/** On and back, by button or key. */
function Steps({ at, most, onStep, children }: StepsProps) {
  // keys may come quicker than the page is drawn: none of them is lost
  const on = () => onStep((now) => Math.min(most, now + 1));
  const back = () => onStep((now) => Math.max(0, now - 1));
  useKeys({ ArrowRight: on, ArrowLeft: back, " ": on });
  return (
    <footer className="flex flex-wrap items-center gap-2">
      <Button shortcut="←" disabled={at === 0} onClick={back}>
        Back
      </Button>
      <Button look="strong" shortcut="→" disabled={at === most} onClick={on}>
        On
      </Button>
      {children}
    </footer>
  );
}

const TOP = -260;
const TALL = 400;
const MOST_WIDE = 1500;
const PEN = 20; // half the pen's width stands beyond the ink

/** A large line with whatever stands on it, in the middle. */
function LargeLine({ label, width, children }: { label: string; width: number; children: ReactNode }) {
  const wide = Math.max(MOST_WIDE, width + 300);
  return (
    <svg role="img" aria-label={label} viewBox={`0 ${TOP} ${wide} ${TALL}`} className="w-full flex-1">
      <Lines from={0} to={wide} />
      <g transform={`translate(${(wide - width) / 2} 0)`}>{children}</g>
    </svg>
  );
}

const at = (drawing: LetterDrawing, x: number) => x - (drawing.bounds[0] ?? 0);

type Moment = { word: DrawnWord; place: number; gone: string; how: "shown" | "out" | "asked" };

/** Every moment of a ring: a word, the sound to rub out, the gap with the new one asked for, the next word. */
function momentsOf(ring: Ring): Moment[] {
  const all = ring.words.flatMap((word, i): Moment[] => {
    const step = ring.steps[i];
    const { place = 0, gone = "" } = step ?? {};
    return (["shown", "out", "asked"] as const).map((how) => ({ word, place, gone, how }));
  });
  const first = ring.words[0];
  return first ? [...all, { word: first, place: 0, gone: "", how: "shown" }] : all;
}

function RingBoard() {
  const { id } = useClass();
  const { get, whose, some } = useAsked();
  const query = useRings(id, {
    ...whose,
    ...some<Rings>(["start", "through", "length", "wanted", "allow_drop", "seed"]),
  });
  const [step, setStep] = useState(0);
  return (
    <Loaded query={query} what="the ring">
      {(rings) => {
        const ring = rings[Number(get("ring"))] ?? rings[0];
        if (!ring) return <Empty title="There is no such ring any more" />;
        const moments = momentsOf(ring);
        const moment = moments[Math.min(step, moments.length - 1)];
        const of = Math.floor(step / 3) + 1;
        return (
          <>
            {moment && <RingMoment moment={moment} />}
            <p role="status" className="mb-4 text-center text-title">
              {moment && saidOf(moment, ring, step)}
            </p>
            <Steps at={step} most={moments.length - 1} onStep={setStep}>
              <p className="ml-2 text-graphite">
                {of > ring.words.length ? "back where it began" : `word ${of} of ${ring.words.length}`}
              </p>
            </Steps>
          </>
        );
      }}
    </Loaded>
  );
}

function saidOf(moment: Moment, ring: Ring, step: number): string {
  const next = ring.steps[Math.floor(step / 3)];
  if (moment.how === "shown") return step === 0 ? "Read it together." : "Read it.";
  if (!next) return "";
  if (moment.how === "out") return next.gone ? `Rub out ${next.gone}.` : "Look where a sound comes in.";
  const following = ring.words[(Math.floor(step / 3) + 1) % ring.words.length]?.text;
  return next.new ? `Make it ${following}. Which sound comes here?` : `It is ${following} now.`;
}

/** One moment: the word, the word with a sound being rubbed out, or with a gap in its place. */
function RingMoment({ moment }: { moment: Moment }) {
  const { word, place, how, gone } = moment;
  const width = widthOf(word.drawing);
  if (how === "shown" || !gone)
    return (
      <LargeLine label={word.text} width={width}>
        <Glyph letter={word.drawing} x={at(word.drawing, 0)} weight={11} />
      </LargeLine>
    );
  const open = new Set(word.places[place]);
  const label = [...word.text].map((char, i) => (open.has(i) ? (how === "out" ? char : "_") : char)).join("");
  return (
    <LargeLine label={how === "out" ? `${word.text}, ${gone} rubbed out` : label} width={width}>
      <LettersApart word={word} open={open} out={how === "out"} />
    </LargeLine>
  );
}

/** A word letter by letter, those that are open drawn pale and struck, or left out above a short stroke. */
function LettersApart({ word, open, out }: { word: DrawnWord; open: ReadonlySet<number>; out: boolean }) {
  const spans = word.letter_spans;
  return (
    <>
      <clipPath id="kept">
        {spans.map(([left = 0, right = 0], i) =>
          open.has(i) ? null : (
            <rect
              key={left}
              x={i ? left : -PEN}
              y={TOP}
              width={right - left + (i ? 0 : PEN) + (i === spans.length - 1 ? PEN : 0)}
              height={TALL}
            />
          ),
        )}
      </clipPath>
      {out && <Glyph letter={word.drawing} x={at(word.drawing, 0)} weight={11} colour="var(--color-pale)" />}
      <g clipPath="url(#kept)">
        <Glyph letter={word.drawing} x={at(word.drawing, 0)} weight={11} />
      </g>
      {[...open].map((i) => {
        const [left = 0, right = 0] = spans[i] ?? [];
        return out ? (
          <line key={i} x1={left} x2={right} y1={20} y2={-130} stroke={INK} strokeWidth={7} />
        ) : (
          <line key={i} x1={left + 12} x2={right - 12} y1={0} y2={0} stroke={INK} strokeWidth={12} />
        );
      })}
    </>
  );
}

function GapBoard() {
  const { query, kept } = useGapsAsked();
  const [step, setStep] = useState(0);
  return (
    <Loaded query={query} what="words with a gap">
      {() => {
        const gap = kept[Math.floor(step / 2)];
        if (!gap) return <Empty title="There is no such word" />;
        const shown = step % 2 === 1;
        return (
          <>
            <GapMoment gap={gap} shown={shown} />
            <p role="status" className="mb-4 text-center text-[40px]">
              {gap.options.map((one, i) => (
                <span key={one}>
                  {i > 0 && <span className="text-title text-graphite"> or </span>}
                  <span className={clsx("px-3", shown && gap.fitting.includes(one) && "bg-ochre font-bold")}>
                    {one}
                  </span>
                </span>
              ))}
              {shown && gap.fitting.length > 1 && (
                <span className="block text-title text-graphite">Both make a word.</span>
              )}
            </p>
            <Steps at={step} most={2 * kept.length - 1} onStep={setStep}>
              <p className="ml-2 text-graphite">
                {Math.floor(step / 2) + 1} of {kept.length}
              </p>
            </Steps>
          </>
        );
      }}
    </Loaded>
  );
}

const OPEN = 170;
const BESIDE = 36;

function GapMoment({ gap, shown }: { gap: Gap; shown: boolean }) {
  const { before, after, word } = gap;
  if (shown)
    return (
      <LargeLine label={word.text} width={widthOf(word.drawing)}>
        <Glyph letter={word.drawing} x={at(word.drawing, 0)} weight={11} />
      </LargeLine>
    );
  const first = before ? widthOf(before) + BESIDE : 0;
  const width = first + OPEN + (after ? widthOf(after) + BESIDE : 0);
  return (
    <LargeLine label={`${before?.char ?? ""}_${after?.char ?? ""}`} width={width}>
      {before && <Glyph letter={before} x={at(before, 0)} weight={11} />}
      <line x1={first} x2={first + OPEN} y1={0} y2={0} stroke={INK} strokeWidth={12} />
      {after && <Glyph letter={after} x={at(after, first + OPEN + BESIDE)} weight={11} />}
    </LargeLine>
  );
}

function SortBoard() {
  const { query, kept, unit, verb } = useSortAsked();
  const [step, setStep] = useState(0);
  const done = kept.slice(0, step);
  const asked = kept[step];
  return (
    <Loaded query={query} what="the sort">
      {() => (
        <>
          {asked ? (
            <LargeLine label={asked.word.text} width={widthOf(asked.word.drawing)}>
              <Glyph letter={asked.word.drawing} x={at(asked.word.drawing, 0)} weight={11} />
            </LargeLine>
          ) : (
            <p className="py-6 text-center text-title">All of them are sorted.</p>
          )}
          <div className="mb-4 grid grid-cols-2 gap-8">
            <Column title={`${verb} ${unit}`} words={done.filter((one) => one.belongs)} />
            <Column title={`do not ${verb} ${unit}`} words={done.filter((one) => !one.belongs)} />
          </div>
          <Steps at={step} most={kept.length} onStep={setStep}>
            <p className="ml-2 text-graphite">
              {Math.min(step + 1, kept.length)} of {kept.length}
            </p>
          </Steps>
        </>
      )}
    </Loaded>
  );
}

function Column({ title, words }: { title: string; words: SortWord[] }) {
  return (
    <section aria-label={title} className="min-h-40 border-t-2 border-ink pt-2">
      <h2 className="text-large text-graphite">{title}</h2>
      <ul className="flex flex-wrap gap-x-8">
        {words.map(({ word }) => (
          <li key={word.text}>
            <svg
              role="img"
              aria-label={word.text}
              height={72}
              viewBox={`-10 -215 ${widthOf(word.drawing) + 20} 330`}
            >
              <Glyph letter={word.drawing} x={at(word.drawing, 0)} weight={13} />
            </svg>
          </li>
        ))}
      </ul>
    </section>
  );
}

const MOMENTS = ["Listen.", "How many sounds? One box for each.", "Write it.", "Look."] as const;

/** A dictation for the room: listen, empty boxes, write, look. The word itself stands there only at the end. */
function BoxBoard() {
  const { get } = useAsked();
  const query = useDictation(Number(get("id")));
  const [step, setStep] = useState(0);
  return (
    <Loaded query={query} what="the dictation">
      {({ words }) => {
        const number = Math.floor(step / MOMENTS.length);
        const moment = step % MOMENTS.length;
        const word = words[number];
        if (!word) return null;
        return (
          <>
            <div className="flex flex-1 flex-col items-center justify-center gap-8">
              <p className="text-[40px] text-graphite">{number + 1}</p>
              {moment > 0 && <EmptyBoxes count={word.boxes.length} size="big" />}
              {moment === MOMENTS.length - 1 && (
                <svg
                  role="img"
                  aria-label={word.text}
                  height={220}
                  viewBox={`-40 -230 ${widthOf(word.drawing) + 80} 350`}
                >
                  <Lines from={-40} to={widthOf(word.drawing) + 40} />
                  <Glyph letter={word.drawing} x={at(word.drawing, 0)} weight={11} />
                </svg>
              )}
            </div>
            <p role="status" className="mb-4 text-center text-title">
              {MOMENTS[moment]}
            </p>
            <Steps at={step} most={MOMENTS.length * words.length - 1} onStep={setStep}>
              <p className="ml-2 text-graphite">
                word {number + 1} of {words.length}
              </p>
            </Steps>
          </>
        );
      }}
    </Loaded>
  );
}

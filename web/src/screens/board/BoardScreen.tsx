import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { LetterModel, SlipOf, TextModel } from "@/api/client";
import { useLetter, useModel, useOwnWords, useSlipsOf } from "@/api/queries";
import { longDate } from "@/app/days";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { useKeys } from "@/app/useKeys";
import { useClock } from "@/ink/useClock";
import { saidAt } from "@/line/Patter";
import { Button } from "@/ui/Button";
import { SaveAs } from "@/ui/SaveAs";
import { Loaded } from "@/ui/States";
import { BoardStrip } from "./BoardStrip";
import { Cautions } from "./Cautions";
import { OwnWordsDialog } from "./OwnWordsDialog";
import { useTurns } from "./useTurns";

const SPEEDS = [
  { name: "Very slow", factor: 0.35 },
  { name: "Slow", factor: 0.6 },
  { name: "Steady", factor: 1 },
  { name: "Brisk", factor: 1.6 },
];
const ROOMS = [
  { name: "as fast as the pen", factor: 1 },
  { name: "with time", factor: 1.5 },
  { name: "with plenty of time", factor: 2.5 },
];
const FIRST_TEXT = "n";

/** A letter, a word or the long date for the whole room, on light or dark, without the margin. */
export function BoardScreen() {
  const { id, name } = useClass();
  const { search, set } = useAddress();
  const navigate = useNavigate();
  const text = search.get("text") || FIRST_TEXT;
  const dark = search.get("look") === "dark";
  const query = useModel(text, id);
  const close = () => {
    if (cameFromHere()) navigate(-1);
    else navigate([...text].length === 1 ? `/letters/${text}` : "/letters");
  };
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys keep their focus
    <main
      className={clsx("flex min-h-full flex-col bg-paper px-6 pt-4 pb-4 text-ink", dark && "board-dark")}
      onClick={letGo}
    >
      <title>Board · First Loop</title>
      <h1 className="sr-only">Board of {name}</h1>
      <Cautions />
      <header className="flex flex-wrap items-center gap-2">
        <TextForm key={text} text={text} onText={(value) => set({ text: value })} />
        <Button look="quiet" onClick={() => set({ text: longDate() })}>
          Long date
        </Button>
        <SaveAs text={text} />
        <div className="ml-auto flex gap-2">
          <Button shortcut="D" pressed={dark} onClick={() => set({ look: dark ? null : "dark" })}>
            Dark
          </Button>
          <Button shortcut="F" onClick={fullScreen}>
            Full screen
          </Button>
          <Button look="quiet" onClick={close}>
            Close the board
          </Button>
        </div>
      </header>
      <Loaded query={query} what={text}>
        {(model) => (
          <Showing key={model.char} model={model} onDark={() => set({ look: dark ? null : "dark" })} />
        )}
      </Loaded>
    </main>
  );
}

/** After a click with a mouse or finger, Space plays again instead of pressing the same button. */
function letGo(event: React.MouseEvent) {
  const byPointer = event.detail > 0;
  const focused = document.activeElement;
  if (byPointer && focused instanceof HTMLButtonElement) focused.blur();
}

/** Whether a page of this school stands behind the board. */
const cameFromHere = () => (window.history.state?.idx ?? 0) > 0;

function fullScreen() {
  if (document.fullscreenElement) void document.exitFullscreen();
  else void document.documentElement.requestFullscreen?.();
}

/** A letter, or letters set apart by spaces; none where the text holds a word. */
function lettersOf(text: string): string[] {
  const parts = text.split(" ").filter(Boolean);
  return parts.every((one) => [...one].length === 1) ? [...new Set(parts)] : [];
}

function TextForm({ text, onText }: { text: string; onText: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (typed.trim()) onText(typed.trim());
      }}
    >
      <label className="flex items-center gap-2 text-graphite">
        On the board
        <input
          value={typed}
          maxLength={40}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          className="h-10 w-56 max-[900px]:w-32 border-b-2 border-line bg-band px-2 text-large text-ink"
        />
      </label>
      <Button type="submit">Show</Button>
    </form>
  );
}

/** Plays one model, and everything a teacher does with it. */
function Showing({ model, onDark }: { model: TextModel; onDark: () => void }) {
  const { id } = useClass();
  const isLetter = [...model.char].length === 1;
  const [speed, setSpeed] = useState(2);
  const [stopAtLifts, setStopAtLifts] = useState(false);
  const [mirrored, setMirrored] = useState(false);
  const [leftHand, setLeftHand] = useState(false);
  const [lines, setLines] = useState(true);
  const [pen, setPen] = useState(false);
  const [blocks, setBlocks] = useState<"asked" | "shown" | null>(null);
  const [besideAt, setBesideAt] = useState<number | null>(null);
  const [slip, setSlip] = useState<{ index: number; crossed: boolean } | null>(null);
  const [wording, setWording] = useState(false);
  const factor = SPEEDS[speed]?.factor ?? 1;
  const stops = model.strokes.flatMap((stroke) => stroke.moves.map((move) => move.to_ms));
  const lifts = stopAtLifts ? model.strokes.slice(0, -1).map((stroke) => stroke.t_ms.at(-1) ?? 0) : [];
  const clock = useClock(model.duration_ms, factor, stops, lifts);
  const turns = useTurns(clock, model.duration_ms, factor);
  const slips = useSlipsOf(lettersOf(model.char), id);
  const letter = useLetter(isLetter ? model.char : "n", id);
  const own = useOwnWords(id).data?.find((one) => one.letter === model.char);
  const beside = isLetter && besideAt !== null ? letter.data?.look_alikes[besideAt] : undefined;
  const nextLookAlike = () => {
    const next = besideAt === null ? 0 : besideAt + 1;
    setBesideAt(next < (letter.data?.look_alikes.length ?? 0) ? next : null);
  };
  const shownSlip = slip ? slips[slip.index] : undefined;

  const forward = () => clock.seek(stops.find((stop) => stop > clock.at + 1) ?? stops[0] ?? 0);
  const back = () => clock.seek(stops.findLast((stop) => stop < clock.at - 1) ?? 0);
  const properly = () => {
    setSlip(null);
    clock.repeat();
  };
  const nextSlip = () => {
    if (!slips.length) return;
    setSlip((now) => ({ index: now ? (now.index + 1) % slips.length : 0, crossed: false }));
    clock.seek(model.duration_ms);
  };
  const cross = () => slip && setSlip({ ...slip, crossed: true });
  const play = slip ? properly : clock.toggle;
  useKeys({
    " ": play,
    ArrowRight: forward,
    ArrowLeft: back,
    r: properly,
    m: () => setMirrored((on) => !on),
    s: nextSlip,
    x: cross,
    g: () => setLines((on) => !on),
    d: onDark,
    f: fullScreen,
  });

  return (
    <>
      <BoardStrip
        model={model}
        at={clock.at}
        mirrored={mirrored}
        leftHand={leftHand}
        lines={lines}
        pen={pen}
        writing={turns.writing}
        share={turns.share}
        blocks={blocks}
        slip={shownSlip && slip ? { ...shownSlip, crossed: slip.crossed } : null}
        beside={beside?.letter ?? null}
      />
      <Saying
        model={model}
        at={clock.at}
        own={own?.phrases ?? null}
        writing={turns.writing ? `${turns.round} of ${turns.count}` : null}
        blocks={blocks}
        slip={shownSlip ?? null}
        several={!isLetter}
        beside={beside ?? null}
      />
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Button look="strong" className={slip ? undefined : "w-36"} shortcut="Space" onClick={play}>
          {slip ? "Write it properly" : clock.playing ? "Pause" : "Play"}
        </Button>
        <Button shortcut="←" aria-label="One move back" onClick={back}>
          Back
        </Button>
        <Button shortcut="→" aria-label="One move on" onClick={forward}>
          On
        </Button>
        <Button shortcut="R" onClick={properly}>
          Repeat
        </Button>
        <label className="flex items-center gap-2 text-graphite">
          Speed
          <select
            value={speed}
            onChange={(event) => setSpeed(Number(event.target.value))}
            className="h-10 rounded-sm border border-pale bg-sheet px-2 text-ink"
          >
            {SPEEDS.map((one, i) => (
              <option key={one.name} value={i}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <Button pressed={stopAtLifts} onClick={() => setStopAtLifts((on) => !on)}>
          Stop at lifts
        </Button>
        <WatchThenWrite turns={turns} />
        <span className="w-px self-stretch bg-pale" aria-hidden="true" />
        <Button shortcut="M" pressed={mirrored} onClick={() => setMirrored((on) => !on)}>
          Mirrored
        </Button>
        <Button pressed={leftHand} onClick={() => setLeftHand((on) => !on)}>
          Left hand
        </Button>
        <Button shortcut="G" pressed={lines} onClick={() => setLines((on) => !on)}>
          Lines
        </Button>
        <Button pressed={pen} onClick={() => setPen((on) => !on)}>
          Pen
        </Button>
        <Button
          pressed={blocks !== null}
          onClick={() => setBlocks((now) => (now === null ? "asked" : now === "asked" ? "shown" : null))}
        >
          {blocks === "asked" ? "Show the blocks" : "How many blocks?"}
        </Button>
        {slips.length > 0 && (
          <>
            <Button shortcut="S" pressed={slip !== null} onClick={nextSlip}>
              Slip
            </Button>
            <Button shortcut="X" disabled={!slip || slip.crossed} onClick={cross}>
              Cross it out
            </Button>
          </>
        )}
        {isLetter && (letter.data?.look_alikes.length ?? 0) > 0 && (
          <Button pressed={beside !== undefined} onClick={nextLookAlike}>
            Look-alikes
          </Button>
        )}
        {isLetter && (
          <Button look="quiet" onClick={() => setWording(true)}>
            Our own words
          </Button>
        )}
      </div>
      {isLetter && (
        <OwnWordsDialog model={model} own={own?.phrases ?? null} open={wording} onOpenChange={setWording} />
      )}
    </>
  );
}

function WatchThenWrite({ turns }: { turns: ReturnType<typeof useTurns> }) {
  return turns.running ? (
    <Button pressed onClick={turns.stop}>
      Stop the turns
    </Button>
  ) : (
    <span className="flex items-center gap-1">
      <Button onClick={turns.start}>Watch, then write</Button>
      <select
        aria-label="Turns"
        value={turns.count}
        onChange={(event) => turns.setCount(Number(event.target.value))}
        className="h-10 rounded-sm border border-pale bg-sheet px-1"
      >
        {[1, 2, 3, 4, 5].map((one) => (
          <option key={one} value={one}>
            {["once", "twice"][one - 1] ?? `${one} times`}
          </option>
        ))}
      </select>
      <select
        aria-label="Time in the air"
        value={turns.room}
        onChange={(event) => turns.setRoom(Number(event.target.value))}
        className="h-10 rounded-sm border border-pale bg-sheet px-1"
      >
        {ROOMS.map((one) => (
          <option key={one.name} value={one.factor}>
            {one.name}
          </option>
        ))}
      </select>
    </span>
  );
}

type SayingProps = {
  model: TextModel;
  at: number;
  own: string[] | null;
  /** Which time the class writes in the air, of how many. */
  writing: string | null;
  blocks: "asked" | "shown" | null;
  slip: SlipOf | null;
  several: boolean;
  beside: LetterModel["look_alikes"][number] | null;
};

const NUMBERS = ["no", "one", "two", "three"];

/** One large line of words: what is said, asked, or shown just now. */
function Saying({ model, at, own, writing, blocks, slip, several, beside }: SayingProps) {
  const said = saidAt(model, at);
  const last = useRef(-1);
  useEffect(() => {
    if (said >= 0) last.current = said;
  }, [said]);
  const phrase = (index: number) => own?.[index] ?? model.patter[index]?.text ?? "";
  let words = said >= 0 ? phrase(said) : at >= model.duration_ms ? " " : phrase(Math.max(last.current, 0));
  if (slip) {
    const name = several ? `${slip.char}: ${slip.name.toLowerCase()}` : slip.name;
    words = slip.reads_as === slip.char ? `${name}.` : `${name}. It reads as ${slip.reads_as}.`;
  } else if (writing !== null) words = `Now you. Write it in the air: ${writing}.`;
  else if (blocks === "asked") words = "How many blocks does it take? Which?";
  else if (blocks === "shown") {
    const count = model.blocks.length;
    words = `It takes ${NUMBERS[count] ?? count}: ${model.blocks.join(" and ")}.`;
  } else if (beside) {
    words = `${model.char}: ${beside.own_words || "stop there."} ${beside.letter}: ${beside.other_words || "stop there."}`;
  }
  return (
    <p
      aria-live="polite"
      className={clsx(
        "min-h-[104px] pt-1 text-center max-[900px]:-order-1 max-[900px]:min-h-12 max-[900px]:text-title",
        beside ? "text-title" : "text-huge",
      )}
    >
      {words}
    </p>
  );
}

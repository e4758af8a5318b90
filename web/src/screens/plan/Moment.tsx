import { useEffect, useRef } from "react";
import type { LessonMoment, LessonPage, LetterDrawing } from "@/api/client";
import { useModel } from "@/api/queries";
import { useClass } from "@/app/school";
import { useClock } from "@/ink/useClock";
import { centred, Glyph, widthOf } from "@/line/Letter";
import { MovingLetter } from "@/line/MovingLetter";
import { saidAt } from "@/line/Patter";
import { SideBySide } from "@/line/SideBySide";
import { SlipInk } from "@/line/SlipInk";
import { Strip } from "@/line/Strip";
import { CAUTIONS } from "@/screens/board/Cautions";

type Show = LessonPage["show"][number];

type Props = { page: LessonPage; moment: LessonMoment; mirrored: boolean };

const BIG = 1400;
const LARGE = "mx-auto block max-h-[62vh] w-full";

/** One moment of a lesson, large. */
export function MomentShown({ page, moment, mirrored }: Props) {
  const show = moment.show === null ? undefined : page.show[moment.show];
  if (show && moment.slip) return <SlipBeside show={show} />;
  if (show && moment.part === "show") return <Written show={show} mirrored={mirrored} />;
  if (show && moment.part === "air") return <InTheAir show={show} mirrored={mirrored} title={moment.title} />;
  if (show) return <RowToWrite page={page} show={show} title={moment.title} />;
  switch (moment.part) {
    case "before":
      return (
        <Said title={moment.title}>
          <ul className="mx-auto mt-6 w-fit space-y-3 text-left text-[32px]">
            {CAUTIONS.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </Said>
      );
    case "date":
      return <OnTheLine title={moment.title} drawn={page.date_drawn ? [page.date_drawn] : []} />;
    case "recall":
      return (
        <OnTheLine
          title={moment.title}
          drawn={page.recall}
          says="Each twice, without looking at the model."
        />
      );
    case "words":
      return <OnTheLine title={moment.title} drawn={page.words} />;
    case "sentence":
      return <OnTheLine title={moment.title} drawn={page.sentence ? [page.sentence] : []} />;
    default:
      return (
        <Said title={moment.title}>
          <p className="mt-6 text-[32px]">Tick your best one, and say why.</p>
        </Said>
      );
  }
}

const Said = ({ title, children }: { title: string; children: React.ReactNode }) => (
  <section aria-label={title} className="text-center">
    <h2 className="text-[40px] font-bold">{title}</h2>
    {children}
  </section>
);

const GAP = 110;

type OnTheLineProps = { title: string; drawn: { text: string; drawing: LetterDrawing }[]; says?: string };

/** Letters or words large on the line. */
const OnTheLine = ({ title, drawn, says }: OnTheLineProps) => (
  <Said title={title}>
    <SideBySide least={BIG} label={drawn.map((one) => one.text).join(" ")} className={LARGE}>
      {drawn.map((one) => one.drawing)}
    </SideBySide>
    {says && <p className="text-title text-graphite">{says}</p>}
  </Said>
);

/** The letter writing itself, with its words. */
function Written({ show, mirrored }: { show: Show; mirrored: boolean }) {
  const { id } = useClass();
  const model = useModel(show.item.text, id).data;
  if (!model) return null;
  return <Playing model={model} show={show} mirrored={mirrored} times={1} />;
}

const TIMES = 3;
const BETWEEN_MS = 900;

function InTheAir({ show, mirrored, title }: { show: Show; mirrored: boolean; title: string }) {
  const { id } = useClass();
  const model = useModel(show.item.text, id).data;
  if (!model) return null;
  return (
    <>
      <h2 className="text-center text-[40px] font-bold">{title}</h2>
      <Playing model={model} show={show} mirrored={mirrored} times={TIMES} />
    </>
  );
}

type PlayingProps = {
  model: NonNullable<ReturnType<typeof useModel>["data"]>;
  show: Show;
  mirrored: boolean;
  times: number;
};

/** Plays so many times, one after another. */
function Playing({ model, show, mirrored, times }: PlayingProps) {
  const stops = model.strokes.flatMap((stroke) => stroke.moves.map((move) => move.to_ms));
  const clock = useClock(model.duration_ms, times > 1 ? 0.6 : 0.8, stops, []);
  const begun = useRef(0);
  const over = clock.at >= model.duration_ms && !clock.playing;
  // biome-ignore lint/correctness/useExhaustiveDependencies: it begins by itself, and again until it was so often
  useEffect(() => {
    if (begun.current && !over) return;
    if (begun.current >= times) return;
    const rest = window.setTimeout(
      () => {
        begun.current += 1;
        clock.repeat();
      },
      begun.current ? BETWEEN_MS : 0,
    );
    return () => window.clearTimeout(rest);
  }, [over]);
  const said = saidAt(model, clock.at);
  const words = said < 0 ? show.says.join(" ") : (show.says[said] ?? model.patter[said]?.text ?? "");
  return (
    <section aria-label={show.item.name}>
      <Strip width={BIG} label={show.item.name} className={LARGE}>
        <g transform={mirrored ? `translate(${BIG} 0) scale(-1 1)` : undefined}>
          <MovingLetter letter={model} at={clock.at} x={centred(model, BIG / 2)} mirrored={mirrored} />
        </g>
      </Strip>
      <p role="status" className="min-h-[3em] text-center text-title">
        {words}
      </p>
    </section>
  );
}

function SlipBeside({ show }: { show: Show }) {
  if (!show.slip) return null;
  return (
    <section aria-label={show.slip.name} className="text-center">
      <Strip width={BIG} label={`${show.item.name}, and a slip crossed out`} className={LARGE}>
        <Glyph letter={show.item.drawing} x={centred(show.item.drawing, BIG * 0.3)} weight={11} />
        <SlipInk slip={{ ...show.slip, crossed: true }} middle={BIG * 0.7} />
      </Strip>
      <p className="text-title">
        Not like this.
        <span className="block text-large text-graphite">{show.slip.name}</span>
      </p>
    </section>
  );
}

/** A row as it is to be written: the model, those to trace pale, and a place for each of the others. */
function RowToWrite({ page, show, title }: { page: LessonPage; show: Show; title: string }) {
  const { drawing } = show.item;
  const cell = widthOf(drawing) + GAP;
  const traced = Array.from({ length: page.trace }, (_, i) => i);
  const toWrite = Array.from({ length: page.finish + page.alone }, (_, i) => i);
  const width = Math.max(BIG, cell * (page.trace + page.finish + page.alone + 1));
  return (
    <Said title={title}>
      <Strip width={width} label={`A row of ${show.item.name}`} className={LARGE}>
        <Glyph letter={drawing} x={centred(drawing, cell * 0.5)} weight={11} />
        {traced.map((i) => (
          <Glyph
            key={i}
            letter={drawing}
            x={centred(drawing, cell * (i + 1.5))}
            weight={11}
            colour="var(--color-pale)"
          />
        ))}
        {toWrite.map((i) => (
          <line
            key={i}
            x1={cell * (page.trace + i + 1.3)}
            x2={cell * (page.trace + i + 1.7)}
            y1={0}
            y2={0}
            stroke="var(--color-ink)"
            strokeWidth={7}
          />
        ))}
      </Strip>
    </Said>
  );
}

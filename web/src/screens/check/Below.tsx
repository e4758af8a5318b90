import type { Attempt, Explained, LetterModel, PaperCut, Row } from "@/api/client";
import { useFamilies } from "@/api/queries";
import { useClass } from "@/app/school";
import { Ink } from "@/ink/Ink";
import { extent, pageOf, timesOf } from "@/ink/paths";
import type { Clock } from "@/ink/useClock";
import { centred, Glyph } from "@/line/Letter";
import { MovingLetter } from "@/line/MovingLetter";
import { Lines, RISE, XH } from "@/line/Strip";
import { Button, LinkButton } from "@/ui/Button";

/** How long the child took, ms; 0 without times. */
export function writingTime(attempt: Attempt | undefined): number {
  const times = attempt ? timesOf(attempt.strokes) : [];
  return times.length ? Math.max(...times) - Math.min(...times) : 0;
}

/** The child's pen and the model's, side by side, by one clock. */
export function Replay(props: { attempt: Attempt; row: Row; letter: LetterModel; clock: Clock }) {
  const { attempt, row, letter, clock } = props;
  const page = pageOf(row.lines);
  const [left, right] = extent(attempt.strokes, page);
  const half = Math.max(130, (right - left) / 2 + 40);
  const box = `${-half} ${RISE - 16} ${half * 2} ${3 * XH + 32}`;
  const timed = timesOf(attempt.strokes).length > 0;
  return (
    <section aria-label="Replay" className="flex flex-wrap items-center gap-3">
      <figure className="w-24">
        <svg viewBox={box} className="h-20 w-full" role="img" aria-label="The child's pen">
          <Lines from={-half} to={half} />
          <g transform={`translate(${-(left + right) / 2} 0)`}>
            <Ink strokes={attempt.strokes} page={page} colour="var(--color-pale)" weight={7} />
            <Ink strokes={attempt.strokes} page={page} weight={7} upTo={clock.at} />
          </g>
        </svg>
        <figcaption className="text-center text-small text-graphite">
          {timed ? row.child.first_name : "no times kept"}
        </figcaption>
      </figure>
      <figure className="w-24">
        <svg viewBox={box} className="h-20 w-full" role="img" aria-label="The model's pen">
          <Lines from={-half} to={half} />
          <MovingLetter letter={letter} at={Math.min(clock.at, letter.duration_ms)} x={centred(letter, 0)} />
        </svg>
        <figcaption className="text-center text-small text-graphite">model</figcaption>
      </figure>
      <Button shortcut="R" onClick={clock.repeat}>
        Replay
      </Button>
    </section>
  );
}

/** Of a letter from paper there is no replay: where its page is, and a way to note what was watched. */
export function FromPaper({ paper, onWatch }: { paper: PaperCut; onWatch: () => void }) {
  return (
    <section aria-label="From paper" className="flex flex-wrap items-center gap-3">
      <LinkButton look="quiet" to={`/check/pages?page=${paper.page_id}`}>
        Its page
      </LinkButton>
      <Button shortcut="O" onClick={onWatch}>
        Watch on paper
      </Button>
    </section>
  );
}

const SURE_XH = 0.3;

/** What the ink looks most like, from the nearest to the furthest: the fuller the bar, the closer. */
export function Readings({ explained }: { explained: Explained | undefined }) {
  const { id } = useClass();
  const { data } = useFamilies(id);
  const drawings = new Map(
    data?.families.flatMap((f) => f.members.map((m) => [m.drawing.char, m.drawing] as const)),
  );
  const readings = explained?.readings ?? [];
  return (
    <section aria-label="Looks most like">
      <h3 className="text-small text-graphite">Looks most like</h3>
      <ol className="mt-1 flex flex-wrap gap-4">
        {readings.map(({ letter, cost_xh }) => {
          const drawing = drawings.get(letter);
          const share = Math.max(0.04, 1 - cost_xh / SURE_XH);
          return (
            <li key={letter} className="w-14 text-center" aria-label={letter}>
              <svg viewBox="-90 -215 180 330" className="mx-auto h-11" aria-hidden="true">
                {drawing && <Glyph letter={drawing} x={centred(drawing, 0)} weight={13} />}
              </svg>
              <span className="mt-1 block h-1 bg-hair">
                <span className="block h-1 bg-ink" style={{ width: `${share * 100}%` }} />
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

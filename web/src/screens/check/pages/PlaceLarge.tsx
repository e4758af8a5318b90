import type { Finding, PagePlace, PageSeen, StrokeInk } from "@/api/client";
import { useLetter } from "@/api/queries";
import { useClass } from "@/app/school";
import { Ink } from "@/ink/Ink";
import { extent, pageOf, pointsPath } from "@/ink/paths";
import { usePen } from "@/ink/usePen";
import { centred, Glyph, PALE } from "@/line/Letter";
import { Paper } from "@/line/Paper";
import { Lines, RISE, XH } from "@/line/Strip";
import { BeadMark } from "@/ui/Bead";
import { Button } from "@/ui/Button";
import { useSize } from "@/ui/useSize";
import { placeName, placeState } from "./PageSheet";

const ABOVE = 30;
const BELOW = 26;
const MODEL = 300; // units for the model at the left of a letter
const AROUND = 50;

type Props = {
  page: PageSeen;
  place: PagePlace;
  drawing: boolean;
  onDrawn: (strokes: StrokeInk[]) => void;
};

/** One place large: the page itself on its lines, the line that was found laid on it, the model beside. */
export function PlaceLarge({ page, place, drawing, onDrawn }: Props) {
  const { id } = useClass();
  const single = place.expected.length === 1;
  const { data: model } = useLetter(single ? place.expected : "l", id);
  const sheet = pageOf(place.lines);
  const [left = 0, , right = 0] = place.box;
  const [inkLeft, inkRight] = place.strokes.length
    ? extent(place.strokes, sheet)
    : [sheet.x(left), sheet.x(right)];
  const from = (single ? sheet.x(left) : inkLeft) - AROUND;
  const to = (single ? sheet.x(right) : inkRight) + AROUND;
  const begin = single ? from - MODEL : from;
  const top = RISE - ABOVE;
  const height = 3 * XH + ABOVE + BELOW;
  const width = Math.max(to - begin, 900);
  const told = place.letter?.findings[place.letter.tells_most ?? 0];
  return (
    <section aria-label="The place" className="min-w-0">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b>{placeName(place)}</b>
        <span className="text-small text-graphite">{placeState(place)}</span>
      </p>
      <div className="relative">
        <svg
          viewBox={`${begin} ${top} ${width} ${height}`}
          className="block max-h-[250px] w-full"
          preserveAspectRatio="xMinYMid meet"
          role="img"
          aria-label={`${placeName(place)}, from the page, with the line found laid on`}
        >
          <Lines from={begin} to={begin + width} />
          {single && model?.char === place.expected && (
            <Glyph letter={model} x={centred(model, from - MODEL / 2)} colour={PALE} weight={11} />
          )}
          <Paper
            paper={{ page_id: page.id, key: place.key, moved_mm: 0, size_mm: page.size_mm }}
            page={sheet}
            from={from}
            to={to}
            above={top}
            below={top + height}
          />
          {!drawing && place.found !== "empty" && (
            <Ink strokes={place.strokes} page={sheet} weight={4} colour="var(--color-ink)" />
          )}
          {!drawing && told && <At finding={told} page={sheet} />}
          {!drawing && place.group && <Beads place={place} />}
        </svg>
        {drawing && (
          <Drawing
            place={place}
            leftUnit={begin}
            topUnit={top}
            width={width}
            height={height}
            onDrawn={onDrawn}
          />
        )}
      </div>
    </section>
  );
}

/** A bead under every letter of a word. */
function Beads({ place }: { place: PagePlace }) {
  return place.group?.letters.map((one, i) => {
    const middle = one.place ? (one.place.body_left + one.place.body_right) / 2 : null;
    return (
      middle !== null && (
        // biome-ignore lint/suspicious/noArrayIndexKey: a letter is known by its place in the word
        <g key={i} transform={`translate(${middle * XH} ${XH + 12})`}>
          <BeadMark verdict={one.verdict} />
        </g>
      )
    );
  });
}

function At({ finding, page }: { finding: Finding; page: ReturnType<typeof pageOf> }) {
  const [x = 0, y = 0] = finding.at;
  return (
    <g data-pointed={finding.code} fill="none">
      <path d={pointsPath(finding.span, page)} stroke="var(--color-ochre)" strokeWidth={9} opacity={0.8} />
      <circle cx={page.x(x)} cy={page.y(y)} r={10} stroke="var(--color-brick)" strokeWidth={2.4} />
    </g>
  );
}

type DrawingProps = {
  place: PagePlace;
  leftUnit: number;
  topUnit: number;
  width: number;
  height: number;
  onDrawn: (strokes: StrokeInk[]) => void;
};

/** The teacher draws the line herself, with pen, finger or mouse, over what is seen. */
function Drawing({ place, leftUnit, topUnit, width, height, onDrawn }: DrawingProps) {
  const [box, size] = useSize();
  const { unitsPerMm } = pageOf(place.lines);
  const scale = size && Math.min(size.width / width, size.height / height);
  const paper =
    size && scale
      ? {
          pxPerMm: scale * unitsPerMm,
          leftMm: leftUnit / unitsPerMm,
          topMm: place.lines.base + (topUnit - (size.height / scale - height) / 2) / unitsPerMm,
        }
      : null;
  const pen = usePen({ paper, enabled: true });
  return (
    <div ref={box} className="absolute inset-0">
      <canvas
        ref={pen.canvas}
        aria-label="Draw the line here"
        className="h-full w-full cursor-crosshair touch-none"
      />
      <div className="absolute right-0 bottom-0 flex gap-2">
        <Button disabled={!pen.hasInk} onClick={pen.clear}>
          Rub out
        </Button>
        <Button look="strong" disabled={!pen.hasInk} onClick={() => onDrawn(pen.ink())}>
          This is the line
        </Button>
      </div>
    </div>
  );
}

import type { Slip, TextModel } from "@/api/client";
import { useLetter } from "@/api/queries";
import { useClass } from "@/app/school";
import { usePen } from "@/ink/usePen";
import { centred, Glyph, StartRing, widthOf } from "@/line/Letter";
import { MovingLetter } from "@/line/MovingLetter";
import { SlipInk } from "@/line/SlipInk";
import { DROP, Lines, MID, RISE, XH } from "@/line/Strip";
import { Button } from "@/ui/Button";
import { useSize } from "@/ui/useSize";

type Props = {
  model: TextModel;
  at: number;
  mirrored: boolean;
  leftHand: boolean;
  lines: boolean;
  pen: boolean;
  /** The class writes in the air: an empty line with the start, and how much time has passed. */
  writing: boolean;
  share: number;
  blocks: "asked" | "shown" | null;
  slip: (Slip & { crossed: boolean }) | null;
  /** A letter easily taken for this one, to stand beside it. */
  beside: string | null;
};

const ROOM = 46; // above the rise line and below the drop line
const SIDE = 130;
const MARKED_MOST = 3; // letters; on longer text the marks would hide it
const BLOCKS = { rise: RISE, middle: MID, drop: 0 } as const;

/** The four lines across the whole board, as large as the letters let them be. */
export function BoardStrip(props: Props) {
  const { model, mirrored, leftHand, lines, beside, slip } = props;
  const [box, known] = useSize();
  const size = known ?? { width: 0, height: 0 };
  const tall = DROP - RISE + 2 * ROOM;
  const copies = (leftHand ? 2 : 1) + (beside || slip ? 1 : 0);
  const needed = copies * (widthOf(model) + SIDE) + SIDE;
  const ratio = size.height ? size.width / size.height : 2;
  const width = Math.max(needed, tall * ratio);
  const height = width / ratio;
  const top = (RISE + DROP) / 2 - height / 2;
  const places = Array.from({ length: copies }, (_, i) => (width * (i + 0.5)) / copies);
  const written = places
    .slice(0, leftHand ? 2 : 1)
    .map((middle) => ({ x: centred(model, middle), boxed: model.boxed }));
  return (
    <div ref={box} className="relative min-h-[52vh] flex-1 min-[900px]:min-h-[240px] max-[900px]:-order-2">
      {size.height > 0 && (
        <svg
          role="img"
          aria-label={`${model.char} on the board`}
          viewBox={`0 ${top} ${width} ${height}`}
          className="absolute inset-0 size-full"
        >
          <g transform={mirrored ? `translate(${width} 0) scale(-1 1)` : undefined}>
            {lines && <Lines from={0} to={width} texts={props.blocks ? [] : written} />}
            {props.blocks && (
              <Blocks model={model} shown={props.blocks === "shown"} middle={places[0] ?? 0} />
            )}
            <OnTheLine {...props} places={places} />
          </g>
        </svg>
      )}
      {props.writing && (
        <div
          role="progressbar"
          aria-label="Time to write"
          aria-valuenow={Math.round(props.share * 100)}
          className="absolute bottom-0 left-0 h-2 bg-ochre-deep"
          style={{ width: `${props.share * 100}%` }}
        />
      )}
      {props.pen && <OwnPen />}
    </div>
  );
}

function OnTheLine(props: Props & { places: number[] }) {
  const { model, at, writing, leftHand, mirrored, slip, beside, places } = props;
  const x = centred(model, places[0] ?? 0);
  const first = model.strokes[0];
  if (writing) {
    return (
      <g transform={`translate(${x} 0)`}>
        {first && <StartRing stroke={first} number={1} mirrored={mirrored} />}
      </g>
    );
  }
  const last = places.at(-1) ?? 0;
  return (
    <>
      <MovingLetter
        letter={model}
        at={at}
        x={x}
        leftHand={leftHand}
        mirrored={mirrored}
        marks={[...model.char].length <= MARKED_MOST}
      />
      {leftHand && places[1] !== undefined && (
        <Glyph letter={model} x={centred(model, places[1])} colour="var(--color-mid)" weight={11} />
      )}
      {slip && <SlipInk slip={slip} middle={last} />}
      {beside && !slip && <LookAlike char={beside} middle={last} />}
    </>
  );
}

function LookAlike({ char, middle }: { char: string; middle: number }) {
  const { id } = useClass();
  const other = useLetter(char, id).data;
  if (!other) return null;
  return <MovingLetter letter={other} at={other.duration_ms} x={centred(other, middle)} />;
}

/** The three bands as blocks: outlined while the class is asked, filled where the letter has ink. */
function Blocks({ model, shown, middle }: { model: TextModel; shown: boolean; middle: number }) {
  const width = Math.max(widthOf(model), 80) + 60;
  return (
    <g>
      {Object.entries(BLOCKS).map(([name, y]) => (
        <rect
          key={name}
          x={middle - width / 2}
          y={y}
          width={width}
          height={XH}
          fill={shown && model.blocks.includes(name) ? "var(--color-ochre)" : "none"}
          stroke="var(--color-mid)"
          strokeWidth={2}
        />
      ))}
    </g>
  );
}

const PX_PER_MM = 12;
const PAPER = { pxPerMm: PX_PER_MM, leftMm: 0, topMm: 0 };

/** The teacher's own pen over the strip. */
function OwnPen() {
  const pen = usePen({ paper: PAPER, enabled: true });
  return (
    <>
      <canvas
        ref={pen.canvas}
        aria-label="Write here"
        className="absolute inset-0 size-full cursor-crosshair touch-none text-brick"
      />
      <Button className="absolute right-0 bottom-2" disabled={!pen.hasInk} onClick={pen.clear}>
        Rub out
      </Button>
    </>
  );
}

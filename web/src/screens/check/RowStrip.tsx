import type { Attempt, Explained, Finding, LetterModel, MoveInk, Row } from "@/api/client";
import { CrossOut } from "@/ink/Ink";
import { extent, pageOf, pointsPath } from "@/ink/paths";
import { centred, Glyph, PALE, StartRing } from "@/line/Letter";
import { Lines, RISE, XH } from "@/line/Strip";
import { Written } from "@/line/Written";
import { BeadMark, WORDS } from "@/ui/Bead";
import { Dimension } from "./Dimension";

const ABOVE = 40;
const BELOW = 84;
const WIDTH_LEAST = 1480; // keeps a short row from growing taller than the page can hold
const PAGE_PX = 1080; // what the strip is wide on a laptop: small marks keep their size at any scale

type Props = {
  row: Row;
  letter: LetterModel;
  chosen: Attempt | undefined;
  onChoose: (attempt: Attempt) => void;
  pointed: Finding | undefined;
  explained: Explained | undefined;
  /** The move whose ink is lit. */
  lit: MoveInk | undefined;
  ghost: GhostLook;
};

/** How the model lies beneath the chosen attempt. */
export type GhostLook = "as written" | "laid on" | "off";

/** A row on its strip: the model at the left, each attempt in its slot, what is meant pointed at. */
export function RowStrip(props: Props) {
  const { row, letter, chosen, onChoose, pointed, explained, lit, ghost } = props;
  const page = pageOf(row.lines);
  const slot = row.slot_mm * page.unitsPerMm;
  const width = Math.max(slot * row.attempts.length, WIDTH_LEAST - slot);
  const px = (width + slot) / PAGE_PX;
  const model = { x: centred(letter, -slot / 2), boxed: letter.boxed };
  const texts = row.attempts.flatMap(({ paper }, i) =>
    paper ? [] : { ...model, x: slot * i + row.letter_left_mm * page.unitsPerMm },
  );
  return (
    <svg
      viewBox={`${-slot} ${RISE - ABOVE} ${width + slot} ${3 * XH + ABOVE + BELOW}`}
      className="block w-full"
      role="group"
      aria-label={`Row of ${row.letter}`}
    >
      <Lines from={-slot} to={width} ruling={row.ruled} texts={[model, ...texts]} />
      <Glyph letter={letter} x={model.x} colour={PALE} weight={10} />
      <g transform={`translate(${model.x} 0)`}>
        {letter.strokes.map((stroke, i) => (
          <StartRing key={stroke.path} stroke={stroke} number={i + 1} size={11 * px} />
        ))}
      </g>
      {row.attempts.map((attempt, i) => (
        <Slot
          key={attempt.id}
          attempt={attempt}
          x={slot * i}
          width={slot}
          number={i + 1}
          px={px}
          isChosen={attempt.id === chosen?.id}
          onChoose={() => onChoose(attempt)}
        >
          {attempt.id === chosen?.id && (
            <Ghost attempt={attempt} letter={letter} row={row} look={ghost} explained={explained} />
          )}
          <Written
            strokes={attempt.strokes}
            paper={attempt.paper}
            page={page}
            colour={attempt.crossed_out ? "var(--color-faint)" : "var(--color-ink)"}
          />
          {attempt.crossed_out && (
            <CrossOut from={extent(attempt.strokes, page)[0]} to={extent(attempt.strokes, page)[1]} />
          )}
          {attempt.id === chosen?.id &&
            lit?.runs.map((run) => <Lit key={String(run[0])} run={run} row={row} />)}
          {attempt.id === chosen?.id && pointed && !lit && (
            <Pointed finding={pointed} row={row} attempt={attempt} px={px} />
          )}
          {attempt.id === chosen?.id && explained && <PensWay explained={explained} row={row} px={px} />}
        </Slot>
      ))}
    </svg>
  );
}

type SlotProps = {
  attempt: Attempt;
  x: number;
  width: number;
  number: number;
  px: number;
  isChosen: boolean;
  onChoose: () => void;
  children: React.ReactNode;
};

/** What stands below a letter: whose mark it has, and who picked it. */
const marksOf = (attempt: Attempt) =>
  [attempt.mark && "your mark", attempt.teachers_best ? "your best" : attempt.best && "best"]
    .filter(Boolean)
    .join(", ");

const named = (attempt: Attempt, number: number) =>
  [`Attempt ${number}`, attempt.crossed_out ? "crossed out" : WORDS[attempt.verdict], marksOf(attempt)]
    .filter(Boolean)
    .join(", ");

function Slot({ attempt, x, width, number, px, isChosen, onChoose, children }: SlotProps) {
  return (
    <>
      <g
        role="button"
        tabIndex={0}
        aria-pressed={isChosen}
        aria-label={named(attempt, number)}
        onClick={onChoose}
        onKeyDown={(event) => {
          if (event.key === "Enter" || event.key === " ") {
            event.preventDefault();
            onChoose();
          }
        }}
      >
        <rect
          x={x + 6}
          y={RISE - ABOVE + 4}
          width={width - 12}
          height={3 * XH + ABOVE + BELOW - 8}
          rx={5}
          fill={isChosen ? "var(--color-sheet)" : "transparent"}
          fillOpacity={isChosen ? 0.55 : 0}
          stroke={isChosen ? "var(--color-ink)" : "none"}
          strokeWidth={1.4}
        />
        <g transform={`translate(${x + width / 2} ${XH + 32}) scale(${px})`}>
          {attempt.crossed_out ? (
            <text fontSize={13} textAnchor="middle" y={5} fill="var(--color-graphite)">
              crossed out
            </text>
          ) : (
            <BeadMark verdict={attempt.verdict} />
          )}
        </g>
        {marksOf(attempt) && (
          <text
            x={x + width / 2}
            y={XH + 34 + 20 * px}
            fontSize={13 * px}
            textAnchor="middle"
            fill="var(--color-ink)"
          >
            {marksOf(attempt)}
          </text>
        )}
      </g>
      <g pointerEvents="none">{children}</g>
    </>
  );
}

type GhostProps = {
  attempt: Attempt;
  letter: LetterModel;
  row: Row;
  look: GhostLook;
  explained: Explained | undefined;
};

/** The model beneath: at its true place on the lines, or laid on the child's own size and place. */
function Ghost({ attempt, letter, row, look, explained }: GhostProps) {
  const page = pageOf(row.lines);
  if (!attempt.result || look === "off") return null;
  if (look === "laid on")
    return (
      <g fill="none" stroke={PALE} strokeWidth={11} strokeLinecap="round" strokeLinejoin="round">
        {explained?.model.map((stroke) => (
          <path key={String(stroke[0])} d={pointsPath(stroke, page)} />
        ))}
      </g>
    );
  return <Glyph letter={letter} x={page.x(attempt.result.model_left_mm)} colour={PALE} weight={11} />;
}

/** The ink of one move, lit. */
function Lit({ run, row }: { run: number[][]; row: Row }) {
  const page = pageOf(row.lines);
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round" data-lit="">
      <path d={pointsPath(run, page)} stroke="var(--color-ochre)" strokeWidth={18} />
      <path d={pointsPath(run, page)} stroke="var(--color-ink)" strokeWidth={6} />
    </g>
  );
}

/** Where the pen went down, in order, and which way it went: seen on the still picture. */
function PensWay({ explained, row, px }: { explained: Explained; row: Row; px: number }) {
  const page = pageOf(row.lines);
  return (
    <g data-way="">
      <g
        fill="none"
        stroke="var(--color-brick)"
        strokeWidth={2.2}
        strokeLinecap="round"
        strokeLinejoin="round"
      >
        {explained.arrows.map((arrow) => (
          <path
            key={`${arrow.x} ${arrow.y}`}
            d="M -5 -6.5 L 3.5 0 L -5 6.5"
            transform={`translate(${page.x(arrow.x)} ${page.y(arrow.y)}) rotate(${arrow.heading_deg})`}
          />
        ))}
      </g>
      {explained.starts.map(([x = 0, y = 0], i) => (
        <g key={`${x} ${y}`} transform={`translate(${page.x(x)} ${page.y(y)})`}>
          <line x2={-17 * px} y2={-11 * px} stroke="var(--color-ink)" strokeWidth={1.4} />
          <g transform={`translate(${-17 * px} ${-11 * px}) scale(${px})`}>
            <circle r={9} fill="var(--color-paper)" stroke="var(--color-ink)" strokeWidth={1.4} />
            <text y={4} fontSize={12} textAnchor="middle" fill="var(--color-ink)">
              {i + 1}
            </text>
          </g>
        </g>
      ))}
    </g>
  );
}

/** The ink a finding is about, lit, with a ring at the very place, and its measure as a dimension line. */
function Pointed(props: { finding: Finding; row: Row; attempt: Attempt; px: number }) {
  const { finding, row, attempt, px } = props;
  const page = pageOf(row.lines);
  const [x = 0, y = 0] = finding.at;
  return (
    <g data-pointed={finding.code}>
      <path
        d={pointsPath(finding.span, page)}
        fill="none"
        stroke="var(--color-ochre)"
        strokeWidth={16}
        strokeLinecap="round"
        strokeLinejoin="round"
        opacity={0.9}
      />
      <Written strokes={attempt.strokes} paper={attempt.paper} page={page} />
      <circle
        cx={page.x(x)}
        cy={page.y(y)}
        r={10}
        fill="none"
        stroke="var(--color-brick)"
        strokeWidth={2.4}
      />
      <Dimension finding={finding} page={page} right={extent(attempt.strokes, page)[1]} px={px} />
    </g>
  );
}

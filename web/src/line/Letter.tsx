import type { LetterDrawing, TextModel } from "@/api/client";

export const INK = "var(--color-ink)";
export const PALE = "var(--color-pale)";

export const widthOf = (letter: LetterDrawing) => (letter.bounds[2] ?? 0) - (letter.bounds[0] ?? 0);

/** x of a letter's origin when its ink is to stand centred on `middle`. */
export const centred = (letter: LetterDrawing, middle: number) =>
  middle - ((letter.bounds[0] ?? 0) + (letter.bounds[2] ?? 0)) / 2;

/** A letter drawn from its strokes, its origin at (x, 0). */
export function Glyph(props: { letter: LetterDrawing; x: number; colour?: string; weight?: number }) {
  return (
    <g
      transform={`translate(${props.x} 0)`}
      fill="none"
      stroke={props.colour ?? INK}
      strokeWidth={props.weight ?? 9}
      strokeLinecap="round"
      strokeLinejoin="round"
    >
      {props.letter.paths.map((d) => (
        <path key={d} d={d} />
      ))}
    </g>
  );
}

type Mark = TextModel["strokes"][number];

/** Ring with the stroke's number on a short leader beside the start. */
export function StartRing(props: { stroke: Mark; number: number; size?: number; mirrored?: boolean }) {
  const { stroke, number, size = 13, mirrored = false } = props;
  const [x = 0, y = 0] = stroke.ring;
  const [lx = 0, ly = 0] = stroke.label;
  return (
    <g>
      <line x1={x} y1={y} x2={lx} y2={ly} stroke={INK} strokeWidth={1.4} />
      <circle cx={lx} cy={ly} r={size} fill="var(--color-paper)" stroke={INK} strokeWidth={1.6} />
      <text
        transform={`translate(${lx} ${ly + size * 0.4}) scale(${mirrored ? -1 : 1} 1)`}
        fontSize={size * 1.2}
        textAnchor="middle"
        fill={INK}
      >
        {number}
      </text>
    </g>
  );
}

/** Fine chevrons along a stroke; a way back is a hairline beside the ink with chevrons of its own. */
export function Chevrons({ stroke, onInk }: { stroke: Mark; onInk: string }) {
  return (
    <g fill="none" strokeWidth={2} strokeLinecap="round" strokeLinejoin="round">
      {stroke.beside.map((d) => (
        <path key={d} d={d} stroke="var(--color-faint)" strokeWidth={1.2} />
      ))}
      {stroke.chevrons.map((c) => (
        <path
          key={`${c.x} ${c.y} ${c.heading_deg}`}
          d="M -3 -4.5 L 2 0 L -3 4.5"
          stroke={c.beside ? "var(--color-line)" : onInk}
          transform={`translate(${c.x} ${c.y}) rotate(${c.heading_deg})`}
        />
      ))}
    </g>
  );
}

/** Dotted hop of a pen lift: from the end of one stroke to the start of the next. */
export function Hops({ letter }: { letter: TextModel }) {
  return (
    <g fill="none" stroke="var(--color-mid)" strokeWidth={1.6} strokeDasharray="1 6" strokeLinecap="round">
      {letter.strokes.slice(1).map((stroke, i) => {
        const last = letter.strokes[i]?.points.at(-1) ?? [0, 0];
        const [ax = 0, ay = 0] = last;
        const [bx = 0, by = 0] = stroke.ring;
        const lift = 26 + Math.abs(bx - ax) * 0.2;
        return (
          <path
            key={stroke.path}
            d={`M ${ax} ${ay} Q ${(ax + bx) / 2 + lift} ${(ay + by) / 2} ${bx} ${by}`}
          />
        );
      })}
    </g>
  );
}

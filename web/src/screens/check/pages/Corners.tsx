import { useRef } from "react";
import { pictureOf } from "@/api/pages";

export type Spot = [x: number, y: number];
const NAMES = ["Top left", "Top right", "Bottom right", "Bottom left"];
const STEP = 0.004; // of the picture's width, for a press of an arrow key
const RADIUS = 0.022;

type Props = {
  pictureId: number;
  /** Pixels of the picture. */
  size: [number, number];
  corners: Spot[];
  onChange: (corners: Spot[]) => void;
  children?: React.ReactNode;
};

/** Where a page's four corners are in its picture: dragged, or moved by arrow keys. */
export function Corners({ pictureId, size: [width, height], corners, onChange, children }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<number | null>(null);
  const spotOf = (event: React.PointerEvent): Spot => {
    const place = svg.current?.getScreenCTM()?.inverse();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(place);
    return [Math.min(Math.max(at.x, 0), width), Math.min(Math.max(at.y, 0), height)];
  };
  const move = (index: number, to: Spot) => onChange(corners.map((one, i) => (i === index ? to : one)));
  const step = STEP * width;
  const KEYS: Record<string, Spot> = {
    ArrowLeft: [-step, 0],
    ArrowRight: [step, 0],
    ArrowUp: [0, -step],
    ArrowDown: [0, step],
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label="The picture with the page's corners"
      className="max-h-[60vh] w-full touch-none border border-pale bg-sheet"
      onPointerMove={(event) => {
        if (held.current !== null) move(held.current, spotOf(event));
      }}
      onPointerUp={() => {
        held.current = null;
      }}
      onPointerLeave={() => {
        held.current = null;
      }}
    >
      <image href={pictureOf(pictureId)} width={width} height={height} />
      <polygon
        points={corners.map((one) => one.join(",")).join(" ")}
        fill="none"
        stroke="var(--color-brick)"
        strokeWidth={width * 0.003}
      />
      {children}
      <circle cx={corners[0]?.[0]} cy={corners[0]?.[1]} r={width * 0.007} fill="var(--color-brick)" />
      {corners.map(([x, y], i) => (
        <circle
          key={NAMES[i]}
          role="button"
          tabIndex={0}
          aria-label={`${NAMES[i]} corner`}
          cx={x}
          cy={y}
          r={width * RADIUS}
          fill="var(--color-paper)"
          fillOpacity={0.35}
          stroke="var(--color-brick)"
          strokeWidth={width * 0.004}
          className="cursor-move"
          onPointerDown={(event) => {
            held.current = i;
            event.currentTarget.focus();
          }}
          onKeyDown={(event) => {
            const by = KEYS[event.key];
            if (!by) return;
            event.preventDefault();
            event.stopPropagation();
            move(i, [x + by[0], y + by[1]]);
          }}
        />
      ))}
    </svg>
  );
}

/** Corners a little inside the picture, to begin with. */
export const someCorners = ([width, height]: [number, number]): Spot[] => [
  [width * 0.04, height * 0.04],
  [width * 0.96, height * 0.04],
  [width * 0.96, height * 0.96],
  [width * 0.04, height * 0.96],
];

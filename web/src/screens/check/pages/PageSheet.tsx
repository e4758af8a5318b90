import { useRef } from "react";
import type { PagePlace, PageSeen } from "@/api/client";
import { pictureOf, straightOf } from "@/api/pages";
import { BeadMark, WORDS } from "@/ui/Bead";

const FOUND: Record<PagePlace["found"], string> = {
  ink: "written",
  "written-over": "written over",
  "crossed-out": "crossed out",
  empty: "empty",
  unclear: "unclear",
};

const SUPPORT: Record<PagePlace["support"], string> = {
  trace: "to trace",
  finish: "to finish",
  ring: "from a ring",
  alone: "alone",
};

const NTH = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"];

/** "m, third alone": a place in words. */
export function placeName(place: PagePlace): string {
  const nth = NTH[place.place - 1] ?? `${place.place}th`;
  return `${place.expected}, ${nth}, ${SUPPORT[place.support]}`;
}

/** What was found in a place, in words. */
export function placeState(place: PagePlace): string {
  const verdict = place.found !== "empty" && place.verdict ? WORDS[place.verdict] : "";
  const found = place.found === "ink" && verdict ? "" : FOUND[place.found];
  return [found, verdict, place.ticked && "best", place.decided && "decided"].filter(Boolean).join(", ");
}

type Props = { page: PageSeen; at: number; onChoose: (index: number) => void };

/** A page made straight, with its places; or the picture as it came. */
export function PageSheet({ page, at, onChoose }: Props) {
  const places = useRef<(SVGGElement | null)[]>([]);
  const [width = 210, height = 297] = page.size_mm;
  if (!page.has_straight) {
    return page.picture_id === null ? (
      <div className="border border-pale bg-sheet" />
    ) : (
      <img
        src={pictureOf(page.picture_id)}
        alt="As it came in"
        className="max-h-[580px] w-full border border-pale bg-sheet object-contain"
      />
    );
  }
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label="The page"
      className="max-h-[580px] w-full border border-pale bg-sheet"
    >
      <image href={straightOf(page.id)} width={width} height={height} preserveAspectRatio="none" />
      {page.entries.map((place, i) => (
        <Place
          key={place.key}
          place={place}
          chosen={i === at}
          onChoose={() => onChoose(i)}
          hold={(element) => {
            places.current[i] = element;
          }}
        />
      ))}
    </svg>
  );
}

type PlaceProps = {
  place: PagePlace;
  chosen: boolean;
  onChoose: () => void;
  hold: (element: SVGGElement | null) => void;
};

const BEAD_MM = 0.15; // millimetres to a unit of a bead

function Place({ place, chosen, onChoose, hold }: PlaceProps) {
  const [x = 0, y = 0, right = 0, foot = 0] = place.box;
  const stroke = chosen ? "var(--color-ink)" : place.wants ? "var(--color-brick)" : "none";
  return (
    <g
      ref={hold}
      role="button"
      tabIndex={chosen ? 0 : -1}
      aria-pressed={chosen}
      aria-label={`${placeName(place)}: ${placeState(place)}`}
      onClick={onChoose}
      className="outline-none"
    >
      <rect
        x={x}
        y={y}
        width={right - x}
        height={foot - y}
        rx={0.6}
        fill={chosen ? "var(--color-ochre)" : "transparent"}
        fillOpacity={chosen ? 0.22 : 0}
        stroke={stroke}
        strokeWidth={chosen ? 0.7 : 0.5}
        className="hover:stroke-line"
      />
      <g transform={`translate(${right - 3} ${foot - 1.6}) scale(${BEAD_MM})`} pointerEvents="none">
        {place.found === "crossed-out" && (
          <path d="M -6 -6 L 6 6 M -6 6 L 6 -6" stroke="var(--color-mid)" strokeWidth={2.4} />
        )}
        {place.verdict && place.found !== "empty" && <BeadMark verdict={place.verdict} />}
      </g>
    </g>
  );
}

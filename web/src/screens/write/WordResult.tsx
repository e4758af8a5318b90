import type { Finding, Word } from "@/api/client";
import { momentFormat } from "@/app/days";
import { CrossOut } from "@/ink/Ink";
import { extent, pageOf, pointsPath } from "@/ink/paths";
import { DROP, Lines, RISE, XH } from "@/line/Strip";
import { Written } from "@/line/Written";
import { BeadMark, WORDS } from "@/ui/Bead";
import { useSize } from "@/ui/useSize";

const TOP = RISE - 60;
const BEADS_AT = DROP + 46;
const TALL = BEADS_AT + 20 - TOP;
const TALLEST_PX = 288;

const told = (findings: Finding[]) => findings.filter((one) => one.severity !== "told");

const day = momentFormat({ weekday: "long", day: "numeric", month: "long" });

/** The day a word was written, in words. */
export const dayOf = (word: Word) => day(word.started_at);

type StripProps = {
  word: Word;
  /** So many units wide at least. */
  least: number;
  /** As a child sees it: the ink, and nothing said of it. */
  plain?: boolean;
};

/** A written word on its lines: a bead under every letter, what is meant lit. */
export function WordStrip({ word, least, plain = false }: StripProps) {
  const page = pageOf(word.lines);
  const [left, right] = extent(word.strokes, page);
  const width = Math.max(least, right - left + 160);
  const letters = plain ? [] : (word.result?.letters ?? []);
  const texts = word.boxed ? [{ x: word.left_mm * page.unitsPerMm, boxed: word.boxed }] : [];
  const [box, size] = useSize();
  const unit = Math.max(width / (size?.width || width), TALL / TALLEST_PX); // in a pixel: beads keep their size
  return (
    <div ref={box}>
      <svg
        viewBox={`${left - 80} ${TOP} ${width} ${TALL}`}
        preserveAspectRatio="xMinYMid meet"
        className="block w-full"
        style={{ maxHeight: TALLEST_PX }}
        role="img"
        aria-label={[
          `${word.text} as ${word.child.first_name} wrote it`,
          letters.map((one) => `${one.expected} ${WORDS[one.verdict]}`).join(", "),
        ]
          .filter(Boolean)
          .join(": ")}
      >
        <Lines from={left - 80} to={left - 80 + width} ruling={word.ruled} texts={texts} />
        <g fill="none" stroke="var(--color-ochre)" strokeWidth={20} strokeLinecap="round">
          {letters.flatMap((one) =>
            told(one.findings).map((finding) => (
              <path key={`${finding.code} ${finding.at}`} d={pointsPath(finding.span, page)} />
            )),
          )}
        </g>
        {told((plain ? null : word.result?.findings) ?? []).map((finding) => (
          <circle
            key={finding.code}
            cx={page.x(finding.at[0] ?? 0)}
            cy={page.y(finding.at[1] ?? 0)}
            r={16}
            fill="none"
            stroke="var(--color-brick)"
            strokeWidth={3}
          />
        ))}
        <Written
          strokes={word.strokes}
          paper={word.paper}
          page={page}
          weight={7}
          colour={word.crossed_out ? "var(--color-faint)" : "var(--color-ink)"}
        />
        {word.crossed_out && <CrossOut from={left} to={right} />}
        {letters.map((one, i) => {
          const middle = one.place ? (one.place.body_left + one.place.body_right) / 2 : null;
          return (
            middle !== null && (
              // biome-ignore lint/suspicious/noArrayIndexKey: a letter is known by its place in the word
              <g key={i} transform={`translate(${middle * XH} ${BEADS_AT}) scale(${unit})`}>
                <BeadMark verdict={one.verdict} />
              </g>
            )
          );
        })}
      </svg>
    </div>
  );
}

/** What to say of a word, or that nothing stands out. */
export function WordFindings({ word }: { word: Word }) {
  if (!word.result) return null;
  if (!word.to_say.length) {
    return (
      <p className="mt-2 text-graphite">
        Every letter is secure, and the room between them is even. {word.result.note}
      </p>
    );
  }
  return (
    <ul aria-label={`What to say of ${word.text}`} className="mt-2 max-w-3xl">
      {word.to_say.map((one, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: what is said is known by its place
        <li key={i} className="flex gap-3 border-b border-hair py-1">
          <span className={`w-20 shrink-0 ${one.of_letters ? "font-bold" : "text-graphite"}`}>{one.of}</span>
          <span>
            {one.teacher} <span className="text-graphite">{one.child}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}

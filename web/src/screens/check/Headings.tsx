import clsx from "clsx";
import type { Attempt, Finding, LetterResult } from "@/api/client";
import { useClass } from "@/app/school";
import { Bead, WORDS } from "@/ui/Bead";

const HEADINGS = ["direction", "shape", "size"] as const;
type Name = (typeof HEADINGS)[number];

const TITLES: Record<Name, string> = { direction: "Direction", shape: "Shape", size: "Size" };
const number = (value: number, digits = 1) => value.toFixed(digits).replace("-0.0", "0.0");

/** What can be said of a heading besides its findings. */
function measured(name: Name, result: LetterResult, baseLine: string): string {
  const m = result.measures;
  if (name === "direction" && m.strokes === null)
    return "On paper the way of the pen does not show. O logs what you watched.";
  if (name === "direction") {
    const strokes = m.strokes === 1 ? "One stroke" : `${m.strokes} strokes`;
    return m.duration_ms === null ? `${strokes}.` : `${strokes}, ${number(m.duration_ms / 1000)} s.`;
  }
  if (name === "shape") return result.reads_as ? `Reads as ${result.reads_as}.` : "";
  if (m.height_mm === null || m.bottom_xh === null || m.height_xh === null) return "";
  const lowest = (m.bottom_xh * m.height_mm) / m.height_xh;
  const where =
    Math.abs(lowest) < 0.05
      ? `on the ${baseLine}`
      : `${number(Math.abs(lowest))} mm ${lowest > 0 ? "above" : "below"} the ${baseLine}`;
  return `${number(m.height_mm)} mm tall, lowest ${where}.`;
}

type Props = {
  attempt: Attempt;
  pointed: Finding | undefined;
  onPoint: (finding: Finding | undefined) => void;
};

/** The three headings of one attempt: bead, word, and findings that point at the ink. */
export function Headings({ attempt, pointed, onPoint }: Props) {
  const baseLine = useClass().line_names.base ?? "base line";
  const { result } = attempt;
  if (!result) {
    return (
      <p className="border-t-2 border-ink pt-3" role="status">
        {attempt.crossed_out
          ? "Crossed out: it is shown, and counts for nothing."
          : attempt.error
            ? "The checker stumbled over this attempt. The ink is kept as it was written, and your own mark counts."
            : "This attempt has not been looked at yet."}
      </p>
    );
  }
  const unreadable = result.findings.find((finding) => finding.code === "unreadable");
  return (
    <div className="grid grid-cols-3 gap-8 max-[1100px]:gap-5 max-[900px]:grid-cols-1">
      {HEADINGS.map((name) => {
        const verdict = result.headings[name];
        const findings = result.findings.filter((one) => one.heading === name && one !== unreadable);
        return (
          <section key={name} aria-label={TITLES[name]} className="border-t-2 border-ink pt-2">
            <h2 className="mb-1 flex items-center gap-2 font-bold">
              <Bead verdict={verdict} silent />
              {TITLES[name]}
              <span className="ml-auto text-small text-graphite">{WORDS[verdict]}</span>
            </h2>
            <ul>
              {findings.map((finding) => (
                <FindingLine
                  key={`${finding.code} ${finding.stroke} ${finding.move}`}
                  finding={finding}
                  lit={finding === pointed}
                  onPoint={onPoint}
                />
              ))}
            </ul>
            <p className="py-1 text-small text-graphite">
              {unreadable ? unreadable.teacher : measured(name, result, baseLine)}
            </p>
          </section>
        );
      })}
    </div>
  );
}

function FindingLine(props: { finding: Finding; lit: boolean; onPoint: Props["onPoint"] }) {
  const { finding, lit, onPoint } = props;
  return (
    <li className="border-b border-hair">
      <button
        type="button"
        aria-pressed={lit}
        className="block w-full py-1 text-left"
        onMouseEnter={() => onPoint(finding)}
        onFocus={() => onPoint(finding)}
        onClick={() => onPoint(finding)}
      >
        <span
          className={clsx(
            "box-decoration-clone",
            lit && "bg-ochre",
            finding.severity === "fix" && "font-bold",
          )}
        >
          {finding.teacher}
        </span>
        <span className="block text-small text-graphite">
          {[finding.severity, finding.allowance].filter(Boolean).join(" · ")}
        </span>
      </button>
    </li>
  );
}

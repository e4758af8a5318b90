import { useEffect, useState } from "react";
import type { LetterHistory, LetterModel } from "@/api/client";
import { centred, Glyph, PALE, widthOf } from "@/line/Letter";
import { Lines, RISE, XH } from "@/line/Strip";
import { Button } from "@/ui/Button";
import { dayOf, Placed } from "./Attempts";

const PAGE_MS = 450;

/** All attempts of a letter one after another in one place, or all at once on top of each other. */
export function FlipBook({ history, letter }: { history: LetterHistory; letter: LetterModel }) {
  const alone = history.attempts.filter(({ attempt }) => attempt.support === "alone" && !attempt.crossed_out);
  const [at, setAt] = useState<number | null>(null);
  const [laid, setLaid] = useState(false);
  useEffect(() => {
    if (at === null || at >= alone.length - 1) return;
    const timer = setTimeout(() => setAt(at + 1), PAGE_MS);
    return () => clearTimeout(timer);
  }, [at, alone.length]);
  if (alone.length < 2) return null;
  const cell = Math.max(300, widthOf(letter) + 180);
  const shown = alone[at ?? alone.length - 1];
  return (
    <section aria-label="One after another" className="mt-2 flex items-center gap-4">
      <svg
        viewBox={`0 ${RISE - 10} ${cell} ${3 * XH + 20}`}
        className="h-[150px]"
        role="img"
        aria-label={
          laid
            ? `All ${alone.length} on top of each other`
            : `Number ${(at ?? alone.length - 1) + 1} of ${alone.length}`
        }
      >
        <Lines from={0} to={cell} />
        <Glyph letter={letter} x={centred(letter, cell / 2)} colour={PALE} weight={11} />
        {laid
          ? alone.map((one) => (
              <g key={one.attempt.id} opacity={0.4}>
                <Placed one={one} x={cell / 2} weight={4} />
              </g>
            ))
          : shown && <Placed one={shown} x={cell / 2} weight={7} />}
      </svg>
      <div className="flex flex-col items-start gap-2">
        <Button
          onClick={() => {
            setLaid(false);
            setAt(0);
          }}
        >
          Leaf through
        </Button>
        <Button pressed={laid} onClick={() => setLaid(!laid)}>
          All on top of each other
        </Button>
        <p className="text-small text-graphite">
          {laid ? `${alone.length} written alone` : shown && dayOf(shown)}
        </p>
      </div>
    </section>
  );
}

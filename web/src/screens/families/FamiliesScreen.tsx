import { Link } from "react-router";
import type { Scheme } from "@/api/client";
import { useFamilies } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { centred, Glyph } from "@/line/Letter";
import { Lines } from "@/line/Strip";
import { LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";

type Family = Scheme["families"][number];
const CELL = 300;
const CELLS = 9;

/** The families of the scheme as strips of letters; a letter opens its page. */
export function FamiliesScreen() {
  const { id, style } = useClass();
  const query = useFamilies(id);
  return (
    <>
      <PageHead title="Families" sub={`grouped by movement · ${style.name}`}>
        <LinkButton look="quiet" to="/letters">
          All letters one by one
        </LinkButton>
        <a
          className="text-body underline decoration-pale underline-offset-4 hover:decoration-ink"
          href={`/api/letters.svg?class_id=${id}`}
          target="_blank"
          rel="noreferrer"
        >
          Wall sheet
        </a>
      </PageHead>
      <Loaded query={query} what="the families">
        {(scheme) => (
          <div className="flex flex-1 flex-col justify-between">
            {scheme.families.map((family) => (
              <FamilyStrip key={family.key} family={family} />
            ))}
          </div>
        )}
      </Loaded>
    </>
  );
}

function FamilyStrip({ family }: { family: Family }) {
  const heading = `family-${family.key}`;
  return (
    <section
      aria-labelledby={heading}
      className="grid grid-cols-[272px_minmax(0,1fr)] items-center gap-4 border-b border-hair py-[3px]"
    >
      <div>
        <h2 id={heading} className="font-bold">
          {family.name}
        </h2>
        <p className="text-small text-graphite">{family.rule}</p>
      </div>
      <div className="relative">
        <svg viewBox={`0 -242 ${CELL * CELLS} 354`} className="block w-full" aria-hidden="true">
          <Lines from={0} to={CELL * CELLS} />
          {family.members.map(({ drawing }, i) => (
            <Glyph key={drawing.char} letter={drawing} x={centred(drawing, CELL * (i + 0.5))} weight={11} />
          ))}
          {family.members.map(({ drawing, ring }, i) => (
            <circle
              key={drawing.char}
              cx={centred(drawing, CELL * (i + 0.5)) + (ring[0] ?? 0)}
              cy={ring[1] ?? 0}
              r={11}
              fill="var(--color-paper)"
              stroke="var(--color-brick)"
              strokeWidth={5}
            />
          ))}
        </svg>
        <ul className="absolute inset-0 grid" style={{ gridTemplateColumns: `repeat(${CELLS}, 1fr)` }}>
          {family.members.map(({ drawing, reason }) => (
            <li key={drawing.char}>
              <Link
                to={`/letters/${drawing.char}`}
                aria-label={`${drawing.char}. ${reason}`}
                title={reason}
                className="block h-full rounded-sm hover:bg-ochre/35"
              />
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

import { Link } from "react-router";
import type { State } from "@/api/client";
import { useClassMap, useCoverage } from "@/api/overtime";
import { inAddress } from "@/api/queries";
import { dayFormat } from "@/app/days";
import { useClass } from "@/app/school";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";

const ORDER: State[] = ["slipping", "learning", "secure"];
const NAMES = 8;
const day = dayFormat({ day: "numeric", month: "long" });
const said = (date: string) => day(date);

/** How the class stands in one letter; the names lead to the ink. */
export function ClassRecord({ char }: { char: string }) {
  const chosen = useClass();
  const { data } = useClassMap(chosen.id, "all", undefined);
  const { data: coverage } = useCoverage(chosen.id);
  if (!data) return null;
  const found = data.children.flatMap(({ child, cells }) => {
    const cell = cells.find((one) => one.letter === char);
    return cell ? [{ child, ...cell }] : [];
  });
  if (!found.length) return null;
  const slips = data.slips.filter((slip) => slip.letters.includes(char)).map((slip) => slip.name);
  const taught = coverage?.find((one) => one.letter === char);
  return (
    <section aria-label={`${chosen.name} and ${char}`} className="mt-3 border-t-2 border-ink pt-2">
      <h2 className="font-bold">
        {chosen.name}{" "}
        <Link
          to={`/letters/${inAddress(char)}/class`}
          className="font-normal underline decoration-pale underline-offset-4 hover:decoration-ink"
        >
          who needs what of {char}
        </Link>
        {taught && (
          <span className="text-small font-normal text-graphite">
            {" "}
            begun on {said(taught.taught)}
            {taught.last_alone && `, last written alone on ${said(taught.last_alone)}`}
            {taught.children.length > 0 &&
              `, not yet alone by ${taught.children.map((child) => child.first_name).join(", ")}`}
          </span>
        )}
      </h2>
      <ul className="mt-1 flex flex-wrap gap-x-10 gap-y-1">
        {ORDER.map((state) => {
          const mine = found.filter((one) => one.state === state);
          if (!mine.length) return null;
          return (
            <li key={state} className="flex items-baseline gap-2">
              <StateMark state={state} />
              <span>
                {mine.length} {STATE_WORDS[state]}
                {mine.length <= NAMES && ": "}
                {mine.length <= NAMES &&
                  mine.map((one, i) => (
                    <span key={one.child.id}>
                      {i > 0 && ", "}
                      <Link
                        to={`/children/${one.child.id}/${char}`}
                        className="underline decoration-pale underline-offset-4 hover:decoration-ink"
                      >
                        {one.child.first_name}
                      </Link>
                    </span>
                  ))}
              </span>
            </li>
          );
        })}
        {slips.length > 0 && <li className="text-graphite">Slips of the class here: {slips.join(", ")}</li>}
      </ul>
    </section>
  );
}

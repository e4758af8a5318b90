import clsx from "clsx";
import { Link, useParams, useSearchParams } from "react-router";
import { useFoundWords } from "@/api/words";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { BankPart } from "./BankPart";
import { DictationPart } from "./DictationPart";
import { FindPart } from "./FindPart";
import { FitsPart } from "./FitsPart";
import { RingsPart } from "./RingsPart";
import { SentencesPart } from "./SentencesPart";
import { SortsPart } from "./SortsPart";

const PARTS = [
  { path: "", name: "Find", part: FindPart },
  { path: "rings", name: "Rings", part: RingsPart },
  { path: "fits", name: "Which one fits", part: FitsPart },
  { path: "sorts", name: "Sorts", part: SortsPart },
  { path: "dictation", name: "Dictation", part: DictationPart },
  { path: "sentences", name: "Sentences", part: SentencesPart },
  { path: "bank", name: "The bank", part: BankPart },
];
/** Of the address, what every part of the page understands and is taken along from one to the next. */
const ALONG = ["child_id", "on", "sets", "family", "before", "any_letters", "chosen"];

/** Words of the class: found by conditions, and what is made of them. */
export function WordsOfClass() {
  const { part = "" } = useParams();
  const { id } = useClass();
  const [search] = useSearchParams();
  const here = PARTS.find((one) => one.path === part) ?? PARTS[0];
  const counts = useFoundWords(id, { limit: 1 }).data;
  const along = new URLSearchParams([...search].filter(([name]) => ALONG.includes(name))).toString();
  const Part = here?.part ?? FindPart;
  return (
    <>
      <PageHead
        title="Words"
        sub={
          counts &&
          `${counts.total.toLocaleString("en-GB")} in the bank · ${counts.within.toLocaleString("en-GB")} of letters taught by today`
        }
      />
      <nav aria-label="Words" className="mb-4 flex flex-wrap gap-x-2 border-b border-hair">
        {PARTS.map((one) => (
          <Link
            key={one.path}
            to={{ pathname: `/words/${one.path}`.replace(/\/$/, ""), search: along }}
            aria-current={one === here ? "page" : undefined}
            className={clsx(
              "-mb-px border-b-2 px-2 py-2",
              one === here ? "border-brick font-bold" : "border-transparent text-graphite hover:text-ink",
            )}
          >
            {one.name}
          </Link>
        ))}
      </nav>
      <Part />
    </>
  );
}

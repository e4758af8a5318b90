import { useParams } from "react-router";
import type { Child, LetterModel, Standing } from "@/api/client";
import { useChild, useLetter, useLetterHistory } from "@/api/queries";
import { useClass } from "@/app/school";
import { LinkButton } from "@/ui/Button";
import { StateMark } from "@/ui/StateMark";
import { Empty, Loaded } from "@/ui/States";
import { Attempts, FirstAndLatest } from "./Attempts";
import { ChildHead } from "./ChildHead";
import { FlipBook } from "./FlipBook";
import { Slips, WatchedNotes, Weeks } from "./Weeks";

/** One child, one letter, over time; compared only with the child's own past. */
export function ChildScreen() {
  const params = useParams();
  const query = useChild(Number(params.childId));
  const char = params.char ?? "";
  return (
    <Loaded query={query} what="the child">
      {({ child, letters }) => (
        <>
          <ChildHead child={child} letters={letters} chosen={char} />
          <OneLetter child={child} char={char} />
        </>
      )}
    </Loaded>
  );
}

const ASPECT_WORDS = { all: "The letter", direction: "Direction", shape: "Shape", size: "Size" } as const;

/** The claim for the letter and for each heading, with the numbers it rests on. */
function Standings({ standings }: { standings: Standing[] }) {
  return (
    <dl className="mb-4 grid grid-cols-[96px_24px_1fr] gap-y-[2px] border-t-2 border-ink pt-2">
      {standings.map((one) => (
        <div key={one.aspect} className="contents">
          <dt className={one.aspect === "all" ? "font-bold" : ""}>{ASPECT_WORDS[one.aspect]}</dt>
          <dd className="flex items-center">
            <StateMark state={one.state} />
          </dd>
          <dd>
            {one.why}
            {one.sureness && <span className="text-small text-graphite"> ({one.sureness})</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function OneLetter({ child, char }: { child: Child; char: string }) {
  const { id } = useClass();
  const history = useLetterHistory(child.id, char);
  const letter = useLetter(char, id);
  return (
    <Loaded query={history} what={`every ${char}`}>
      {(data) =>
        data.attempts.length ? (
          <Loaded query={letter} what="the model">
            {(model: LetterModel) => (
              <div className="flex flex-1 flex-col gap-4">
                <div className="grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-8">
                  <div>
                    <FirstAndLatest history={data} letter={model} />
                    <FlipBook history={data} letter={model} />
                  </div>
                  <div>
                    <Standings standings={data.standings} />
                    <Weeks history={data} />
                    <Slips history={data} />
                    <WatchedNotes history={data} />
                  </div>
                </div>
                <Attempts history={data} letter={model} />
                <p className="mt-auto border-t border-hair pt-2">
                  <span className="text-small text-graphite">Next time, for {child.first_name}: </span>“
                  {data.next_time}”
                </p>
              </div>
            )}
          </Loaded>
        ) : (
          <Empty title={`${child.first_name} has not written ${char} yet`}>
            <LinkButton to={`/write?child=${child.id}&letter=${char}`}>Start a row of {char}</LinkButton>
          </Empty>
        )
      }
    </Loaded>
  );
}

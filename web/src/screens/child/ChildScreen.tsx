import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useLevels } from "@/api/checking";
import { api, type Child, got, type LetterModel } from "@/api/client";
import { useChild, useLetter, useLetterHistory } from "@/api/queries";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { Bead, WORDS } from "@/ui/Bead";
import { Button, LinkButton } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { LevelChoice } from "@/ui/LevelChoice";
import { Empty, Loaded } from "@/ui/States";
import { Attempts, FirstAndLatest } from "./Attempts";
import { Slips, WatchedNotes, Weeks } from "./Weeks";

/** One child, one letter, over time; compared only with the child's own past. */
export function ChildScreen() {
  const childId = Number(useParams().childId);
  const query = useChild(childId);
  const [erasing, setErasing] = useState(false);
  const params = useParams();
  const levels = useLevels();
  const { level: classLevel } = useClass();
  const letters = query.data?.letters ?? [];
  const char = params.char ?? mostUrgent(letters);
  return (
    <Loaded query={query} what="the child">
      {({ child }) => (
        <>
          <PageHead
            title={child.name}
            sub={[query.data?.class_name, child.hand === "left" && "left-handed"].filter(Boolean).join(" · ")}
          >
            <LinkButton to={`/write?child=${child.id}${char ? `&letter=${char}` : ""}`}>
              {char ? `Write ${char}` : "Write a row"}
            </LinkButton>
            <LevelChoice
              level={child.level}
              followed={classLevel}
              onChoose={(level) => levels.ofChild.mutate({ id: child.id, level })}
            />
            <a
              className="underline decoration-pale underline-offset-4 hover:decoration-ink"
              href={`/api/children/${child.id}/ink.inkml`}
            >
              Take the ink
            </a>
            <Button look="quiet" onClick={() => setErasing(true)}>
              Erase
            </Button>
          </PageHead>
          {char ? (
            <>
              <LetterTabs childId={child.id} letters={letters} chosen={char} />
              <OneLetter child={child} char={char} />
            </>
          ) : (
            <Empty title={`${child.first_name} has not written anything yet`}>
              <LinkButton to={`/write?child=${child.id}`}>Start a row</LinkButton>
            </Empty>
          )}
          <EraseChild child={child} open={erasing} onOpenChange={setErasing} />
        </>
      )}
    </Loaded>
  );
}

type State = { letter: string; attempts: number; verdict: keyof typeof WORDS };

/** The letter a teacher will want to see first: one to fix, else the one most written. */
function mostUrgent(letters: State[]): string | undefined {
  const most = [...letters].sort((a, b) => b.attempts - a.attempts);
  return (most.find((one) => one.verdict === "fix") ?? most[0])?.letter;
}

function LetterTabs({ childId, letters, chosen }: { childId: number; letters: State[]; chosen: string }) {
  return (
    <nav aria-label="Letters written" className="mb-3 border-b border-hair">
      <ul className="flex">
        {letters.map((one) => (
          <li key={one.letter}>
            <Link
              to={`/children/${childId}/${one.letter}`}
              aria-current={one.letter === chosen ? "page" : undefined}
              aria-label={`${one.letter}, ${WORDS[one.verdict]}`}
              className="block w-10 rounded-sm pb-1 text-center text-large hover:bg-ochre/35 aria-[current=page]:bg-ochre aria-[current=page]:font-bold"
            >
              {one.letter}
              <span className="-mt-1 flex justify-center">
                <Bead verdict={one.verdict} silent />
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </nav>
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
                  <FirstAndLatest history={data} letter={model} />
                  <div>
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

function EraseChild(props: { child: Child; open: boolean; onOpenChange: (open: boolean) => void }) {
  const { child, open, onOpenChange } = props;
  const [typed, setTyped] = useState("");
  const client = useQueryClient();
  const navigate = useNavigate();
  const erase = useMutation({
    mutationFn: () =>
      got(api.DELETE("/api/children/{child_id}", { params: { path: { child_id: child.id } } })),
    onSuccess: () => {
      navigate("/class");
      client.invalidateQueries();
    },
  });
  return (
    <Dialog title={`Erase ${child.name}`} open={open} onOpenChange={onOpenChange}>
      <p>
        Every row, all ink, every result and every mark of {child.name} will be gone from this machine. This
        cannot be undone. Take the ink first if anyone may still need it.
      </p>
      <label className="mt-4 block">
        Type {child.first_name} to go on
        <input
          value={typed}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          className="mt-1 h-10 w-full border-b-2 border-line bg-band px-2 outline-none"
        />
      </label>
      {erase.error && (
        <p role="alert" className="mt-2 text-brick">
          {erase.error.message}
        </p>
      )}
      <Button
        look="brick"
        className="mt-4"
        disabled={typed !== child.first_name || erase.isPending}
        onClick={() => erase.mutate()}
      >
        Erase for good
      </Button>
    </Dialog>
  );
}

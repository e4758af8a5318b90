import { useState } from "react";
import { Link, useParams } from "react-router";
import type { ChildsLetter, GroupIn } from "@/api/client";
import { useGroups, useLetterInClass, useToday } from "@/api/overtime";
import { inAddress } from "@/api/queries";
import { dayFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { centred, Glyph, INK } from "@/line/Letter";
import { Lines, RISE, XH } from "@/line/Strip";
import { sheetAddress } from "@/screens/sheets/address";
import { Button, LINK, LinkButton } from "@/ui/Button";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { Loaded } from "@/ui/States";

const day = dayFormat({ day: "numeric", month: "short" });
const SAMPLE = 480;

/** A letter and the class: who needs what of it, who needs it most first, each with the last sample. */
export function LetterInClass() {
  const { char: address } = useParams();
  const char = address === "full-stop" ? "." : (address ?? "n");
  const { id, name } = useClass();
  const query = useLetterInClass(id, char);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const toggle = (child: number) => {
    const next = new Set(chosen);
    if (!next.delete(child)) next.add(child);
    setChosen(next);
  };
  return (
    <>
      <PageHead crowded title={`Who needs ${char}`} sub={name}>
        <LinkButton to={`/board?text=${encodeURIComponent(char)}`}>On the board</LinkButton>
        <LinkButton to={sheetAddress({ letters: char })}>Sheet for it</LinkButton>
        <a
          className={LINK}
          href={`/api/classes/${id}/letters/${inAddress(char)}/practice.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          Practice page
        </a>
        <LinkButton look="quiet" to={`/letters/${address}`}>
          The letter
        </LinkButton>
      </PageHead>
      <Loaded query={query} what={`who needs ${char}`}>
        {(found) => (
          <>
            <TakeAside
              char={char}
              family={found.family}
              aside={found.children.filter((one) => chosen.has(one.child.id))}
              onDone={() => setChosen(new Set())}
            />
            <ol aria-label={`Children, who needs ${char} most first`} className="mt-2">
              {found.children.map((one) => (
                <Needs
                  key={one.child.id}
                  char={char}
                  one={one}
                  chosen={chosen.has(one.child.id)}
                  onToggle={() => toggle(one.child.id)}
                />
              ))}
            </ol>
          </>
        )}
      </Loaded>
    </>
  );
}

type NeedsProps = { char: string; one: ChildsLetter; chosen: boolean; onToggle: () => void };

function Needs({ char, one, chosen, onToggle }: NeedsProps) {
  const { child, state, why, due, slips, latest } = one;
  const drawing = latest && { char, paths: latest.paths, bounds: latest.bounds };
  return (
    <li className="grid grid-cols-[28px_136px_minmax(0,1.2fr)_minmax(0,1.4fr)_auto] items-center gap-x-4 border-b border-hair py-1 max-[900px]:grid-cols-[28px_112px_minmax(0,1fr)]">
      <input
        type="checkbox"
        aria-label={`Take ${child.name} aside`}
        checked={chosen}
        onChange={onToggle}
        className="size-5 accent-ink"
      />
      <svg
        viewBox={`0 ${RISE - 12} ${SAMPLE} ${3 * XH + 24}`}
        className="block h-22 w-full"
        role="img"
        aria-label={
          latest ? `${char} as ${child.first_name} wrote it on ${day(latest.day)}` : `no ${char} yet`
        }
      >
        <Lines from={0} to={SAMPLE} />
        {drawing && <Glyph letter={drawing} x={centred(drawing, SAMPLE / 2)} colour={INK} weight={8} />}
      </svg>
      <div>
        <Link
          to={latest ? `/children/${child.id}/${char}` : `/children/${child.id}`}
          className="font-bold underline decoration-pale underline-offset-4 hover:decoration-ink"
        >
          {child.name}
        </Link>
        <p className="flex items-center gap-1 text-small text-graphite">
          <StateMark state={state} due={due} />
          {why.startsWith(STATE_WORDS[state]) ? why : `${STATE_WORDS[state]}: ${why}`}
        </p>
      </div>
      <ul className="max-[900px]:col-span-2 max-[900px]:col-start-2">
        {slips.map((slip) => (
          <li key={slip.code}>
            {slip.name}
            <span className="text-small text-graphite">
              {" "}
              · {slip.times === 1 ? "once" : `in ${slip.times} letters`} of late; teach again {slip.teach}
            </span>
          </li>
        ))}
      </ul>
      <LinkButton look="quiet" to={`/write?child=${child.id}&letter=${encodeURIComponent(char)}`}>
        Write {char}
        <span className="sr-only"> with {child.first_name}</span>
      </LinkButton>
    </li>
  );
}

type AsideProps = { char: string; family: string; aside: ChildsLetter[]; onDone: () => void };

/** Makes a group of the chosen, over the slip that most of them make. */
function TakeAside({ char, family, aside, onDone }: AsideProps) {
  const { id } = useClass();
  const { data: today } = useToday(id);
  const { keep } = useGroups(id);
  const [made, setMade] = useState("");
  const slip = aside.flatMap((one) => one.slips)[0];
  const names = aside.map((one) => one.child.first_name).join(", ");
  const make = () => {
    if (!slip) return;
    const group: GroupIn = {
      code: slip.code,
      family,
      letters: char,
      child_ids: aside.map((one) => one.child.id),
    };
    const others = (today?.groups ?? []).map((one) => ({
      code: one.code,
      family: one.family,
      letters: one.letters,
      child_ids: one.children.map((child) => child.id),
    }));
    keep.mutate([group, ...others], {
      onSuccess: () => {
        setMade(`${names} stand on Today as a group.`);
        onDone();
      },
    });
  };
  return (
    <div className="flex min-h-10 items-center gap-4">
      <p className="text-graphite">{aside.length ? names : "Tick the children to take aside together."}</p>
      {aside.length > 0 && slip && (
        <Button look="strong" disabled={!today || keep.isPending} onClick={make}>
          Take them aside over “{slip.name}”
        </Button>
      )}
      {aside.length > 0 && !slip && <p className="text-graphite">None of them has made a slip of late.</p>}
      {made && !aside.length && (
        <p role="status">
          {made}{" "}
          <Link to="/today" className="underline underline-offset-4">
            See Today
          </Link>
        </p>
      )}
      {keep.error && (
        <p role="alert" className="text-brick">
          {keep.error.message}
        </p>
      )}
    </div>
  );
}

import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useChildSteps } from "@/api/classes";
import type { Child, State } from "@/api/client";
import { PageHead } from "@/app/Shell";
import { Button, LINK, LinkButton } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { STATE_WORDS, StateMark } from "@/ui/StateMark";
import { ChangeChild } from "./ChangeChild";

/** Who it is about, what can be done with the child, and the letters as tabs. */
export function ChildHead(props: {
  child: Child;
  letters: { letter: string; state: State }[];
  chosen?: string;
}) {
  const { child, letters, chosen } = props;
  const [erasing, setErasing] = useState(false);
  const [changing, setChanging] = useState(false);
  return (
    <>
      <PageHead crowded title={child.name} sub={child.hand === "left" ? "left-handed" : undefined}>
        <LinkButton to={`/write?child=${child.id}${chosen ? `&letter=${chosen}` : ""}`}>
          {chosen ? `Write ${chosen}` : "Write a row"}
        </LinkButton>
        <a className={LINK} href={`/api/children/${child.id}/report.pdf`}>
          Report
        </a>
        <a className={LINK} href={`/api/children/${child.id}/practice.pdf`}>
          Practice strip
        </a>
        <a className={LINK} href={`/api/children/${child.id}/export.zip`}>
          Export
        </a>
        <Button look="quiet" onClick={() => setChanging(true)}>
          Change
        </Button>
        <Button look="quiet" onClick={() => setErasing(true)}>
          Erase
        </Button>
      </PageHead>
      <nav aria-label="Letters written" className="mb-4 border-b border-hair">
        <ul className="flex flex-wrap">
          <li>
            <Link
              to={`/children/${child.id}`}
              aria-current={chosen ? undefined : "page"}
              className="mr-2 block rounded-sm px-3 pt-2 pb-3 hover:bg-ochre/35 aria-[current=page]:bg-ochre aria-[current=page]:font-bold"
            >
              Story
            </Link>
          </li>
          {letters.map((one) => (
            <li key={one.letter}>
              <Link
                to={`/children/${child.id}/${one.letter}`}
                aria-current={one.letter === chosen ? "page" : undefined}
                aria-label={`${one.letter}, ${STATE_WORDS[one.state]}`}
                className="block w-9 rounded-sm pb-1 text-center text-large hover:bg-ochre/35 aria-[current=page]:bg-ochre aria-[current=page]:font-bold"
              >
                {one.letter}
                <span className="-mt-1 flex justify-center">
                  <StateMark state={one.state} />
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      <EraseChild child={child} open={erasing} onOpenChange={setErasing} />
      <ChangeChild
        key={`${child.id} ${child.name} ${child.hand}`}
        child={child}
        open={changing}
        onOpenChange={setChanging}
      />
    </>
  );
}

function EraseChild(props: { child: Child; open: boolean; onOpenChange: (open: boolean) => void }) {
  const { child, open, onOpenChange } = props;
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  const { erase } = useChildSteps();
  return (
    <Dialog title={`Erase ${child.name}`} open={open} onOpenChange={onOpenChange}>
      <p>
        Every row, all ink, every page, result, mark and note of {child.name} goes from these records. For
        thirty days the class’s page offers to bring {child.first_name} back; then all of it is gone for good.
        Backups made from now on hold nothing of {child.first_name}; backups made before still do.
      </p>
      <p className="mt-2">
        If anyone may still need it,{" "}
        <a className={LINK} href={`/api/children/${child.id}/export.zip`}>
          take the file of {child.first_name} out first
        </a>
        .
      </p>
      <label className="mt-4 block">
        Type {child.first_name} to go on
        <input
          value={typed}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          className="mt-1 h-10 w-full border-b-2 border-line bg-band px-2"
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
        onClick={() => erase.mutate(child.id, { onSuccess: () => navigate("/class") })}
      >
        Erase {child.first_name}
      </Button>
    </Dialog>
  );
}

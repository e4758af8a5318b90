import clsx from "clsx";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { LessonPage, LessonPart } from "@/api/client";
import { useChangeLesson, useLesson, usePlan, usePlanSteps } from "@/api/plan";
import { momentFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { sheetAddress } from "@/screens/sheets/address";
import { Button, LINK, LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { WhatWasShown } from "./LessonDialog";
import { PartDetail } from "./PartDetail";
import { PlanTabs } from "./PlanScreen";

const clock = momentFormat({ hour: "2-digit", minute: "2-digit" });

/** A lesson on one page: its parts with their minutes, all of it to be changed. */
export function LessonScreen() {
  const { id } = useClass();
  const key = Number(useParams().key);
  const query = useLesson(id, key);
  return (
    <Loaded query={query} what="the lesson">
      {(page) => <Page page={page} />}
    </Loaded>
  );
}

const minutes = (count: number) => (count === 1 ? "1 minute" : `${count} minutes`);

function Page({ page }: { page: LessonPage }) {
  const { id } = useClass();
  const plan = usePlan(id).data;
  const steps = usePlanSteps(id);
  const change = useChangeLesson(id, page.key);
  const [open, setOpen] = useState<LessonPart["kind"]>(page.new.length ? "show" : "recall");
  const part = page.parts.find((one) => one.kind === open) ?? page.parts[0];
  const undo = () => plan?.can_undo && !steps.undo.isPending && steps.undo.mutate(undefined);
  useKeys({ u: undo });
  const error = change.error ?? steps.undo.error ?? steps.tell.error;
  const total = page.parts.reduce((sum, one) => sum + one.minutes, 0);
  return (
    <>
      <PageHead
        crowded
        title="Lesson"
        sub={`${page.day_says} · ${minutes(page.minutes)} · ${page.class_name}`}
      />
      <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <PlanTabs nextKey={plan?.next_key ?? null} lesson />
        <nav aria-label="Other lessons" className="ml-auto flex items-center gap-4">
          {page.before_key && (
            <Link className={LINK} to={`/plan/lesson/${page.before_key}`}>
              Before
            </Link>
          )}
          {page.after_key && (
            <Link className={LINK} to={`/plan/lesson/${page.after_key}`}>
              After
            </Link>
          )}
          <Button disabled={!plan?.can_undo} onClick={undo}>
            Undo
          </Button>
        </nav>
      </div>
      {error && (
        <p role="alert" className="mb-2 text-brick">
          {error.message}
        </p>
      )}
      <div className="grid flex-1 grid-cols-[420px_minmax(0,1fr)] gap-x-16 gap-y-6 max-[1100px]:grid-cols-1">
        <section aria-label="Parts of the lesson">
          <Aim key={page.aim} page={page} onAim={(aim) => change.mutate({ aim })} />
          <ol className="mt-3 space-y-1">
            {page.parts.map((one) => (
              <PartBar
                key={one.kind}
                part={one}
                chosen={one === part}
                onChoose={() => setOpen(one.kind)}
                onMinutes={(count) => change.mutate({ minutes: { [one.kind]: count } })}
              />
            ))}
          </ol>
          <p className="mt-2 text-small text-graphite" role="status">
            {minutes(total)}
            {page.over_by > 0 && `: ${page.over_by} more than the lesson has`}. {page.pace_says}
          </p>
          {page.left_out.length > 0 && (
            <p className="mt-1 text-small">
              Left out:{" "}
              {page.left_out.map((kind) => (
                <Button
                  key={kind}
                  look="quiet"
                  onClick={() => change.mutate({ without: page.left_out.filter((one) => one !== kind) })}
                >
                  Take {kind} in again
                </Button>
              ))}
            </p>
          )}
        </section>
        <div className="flex min-w-0 flex-col">
          {part && (
            <PartDetail
              key={`${page.key} ${part.kind}`}
              page={page}
              part={part}
              onChange={(fields) => change.mutate(fields)}
              onLeaveOut={() => change.mutate({ without: [...page.left_out, part.kind] })}
            />
          )}
          <Beside page={page} onNote={(beside) => change.mutate({ beside })} />
          <Done page={page} onTell={(shown) => steps.tell.mutate({ key: page.key, shown })} />
          <div className="mt-auto flex flex-wrap items-center justify-end gap-2 pt-4">
            {page.changed.length > 0 && (
              <Button
                look="quiet"
                onClick={() => change.mutate(Object.fromEntries(page.changed.map((name) => [name, null])))}
              >
                As it was worked out
              </Button>
            )}
            <LinkButton look="quiet" to={sheetOf(page)}>
              Sheet for it
            </LinkButton>
            <a
              className={LINK}
              href={`/api/classes/${id}/plan/lessons/${page.key}/page.pdf`}
              target="_blank"
              rel="noreferrer"
            >
              Print the page
            </a>
            <LinkButton look="strong" to={`/plan/lesson/${page.key}/run`}>
              Run the lesson
            </LinkButton>
          </div>
        </div>
      </div>
    </>
  );
}

/** The sheet for what a lesson holds: what is recalled, what is new, words and the sentence. */
function sheetOf(page: LessonPage): string {
  const letters = (items: string[]) => items.filter((item) => item.length === 1).join(" ");
  return sheetAddress({
    recall: letters(page.recall.map((item) => item.text)),
    letters: letters(page.new),
    words: page.words.map((word) => word.text).join(" "),
    line: page.sentence?.text ?? "",
  });
}

function Aim({ page, onAim }: { page: LessonPage; onAim: (aim: string | null) => void }) {
  const [aim, setAim] = useState(page.aim);
  return (
    <label className="block">
      <span className="sr-only">What children will be able to do</span>
      <input
        value={aim}
        maxLength={200}
        disabled={!page.can_change}
        onChange={(event) => setAim(event.target.value)}
        onBlur={() => aim !== page.aim && onAim(aim.trim() || null)}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="w-full border-b border-transparent bg-transparent text-large hover:border-pale focus:border-line"
      />
    </label>
  );
}

const A_MINUTE_PX = 26;

type BarProps = {
  part: LessonPart;
  chosen: boolean;
  onChoose: () => void;
  onMinutes: (minutes: number) => void;
};

/** A part as tall as its minutes. */
function PartBar({ part, chosen, onChoose, onMinutes }: BarProps) {
  return (
    <li className="flex" style={{ minHeight: Math.max(44, Math.min(4, part.minutes) * A_MINUTE_PX) }}>
      <span aria-hidden="true" className={clsx("w-[6px] shrink-0", chosen ? "bg-brick" : "bg-pale")} />
      <button
        type="button"
        aria-pressed={chosen}
        onClick={onChoose}
        className="flex min-w-0 flex-1 flex-col items-start px-3 text-left"
      >
        <span className="block font-bold">{part.title}</span>
        <span className="block text-small text-graphite">{part.says}</span>
      </button>
      <label className="flex items-start gap-1 text-small whitespace-nowrap text-graphite">
        <input
          type="number"
          min={1}
          max={60}
          aria-label={`Minutes for ${part.title}`}
          value={part.minutes}
          onChange={(event) => onMinutes(Math.max(1, Math.min(60, Number(event.target.value) || 1)))}
          className="h-6 w-12 border-b border-pale bg-transparent text-right tabular-nums focus:border-line"
        />
        min
      </label>
    </li>
  );
}

function Beside({ page, onNote }: { page: LessonPage; onNote: (note: string | null) => void }) {
  const [note, setNote] = useState(page.beside_note);
  return (
    <div className="mt-6 grid grid-cols-2 gap-8 border-t-2 border-ink pt-2 max-[900px]:grid-cols-1">
      <section aria-label="Stand beside">
        <h2 className="font-bold">Stand beside</h2>
        {page.beside.map((one) => (
          <p key={one.says} className="mt-1 text-small">
            {one.children.map((child, i) => (
              <span key={child.id}>
                {i > 0 && ", "}
                <Link className="underline decoration-pale underline-offset-4" to={`/children/${child.id}`}>
                  {child.first_name}
                </Link>
              </span>
            ))}
            : {one.says}
          </p>
        ))}
        {!page.beside.length && (
          <p className="text-small text-graphite">No two children share a slip often enough.</p>
        )}
        <label className="mt-2 block">
          <span className="text-small text-graphite">Your own note</span>
          <textarea
            value={note}
            rows={2}
            maxLength={400}
            onChange={(event) => setNote(event.target.value)}
            onBlur={() => note !== page.beside_note && onNote(note.trim() || null)}
            className="block w-full border-b border-pale bg-transparent focus:border-line"
          />
        </label>
      </section>
      <section aria-label="If time runs short">
        <h2 className="font-bold">If time runs short</h2>
        <p className="mt-1 text-small">Leave out {page.cut_says}.</p>
      </section>
    </div>
  );
}

/** What was done of a lesson that was run, to be put right. */
function Done({ page, onTell }: { page: LessonPage; onTell: (shown: string[] | null) => void }) {
  const { run } = page;
  if (!run && page.came === "planned") return null;
  return (
    <section aria-label="What was done" className="mt-5 border-t-2 border-ink pt-2">
      <h2 className="font-bold">What was done</h2>
      {run && (
        <>
          <p className="text-small text-graphite">
            From {clock(run.started_at)}
            {run.finished_at ? ` to ${clock(run.finished_at)}` : ", not ended yet"}
            {run.rows + run.words > 0 && (
              <>
                ; written meanwhile: {several(run.rows, "row")} and {several(run.words, "word")} by{" "}
                {run.children === 1 ? "1 child" : `${run.children} children`}.{" "}
                <Link className={LINK} to="/check">
                  Check them
                </Link>
              </>
            )}
          </p>
          <ul className="flex flex-wrap gap-x-4 text-small">
            {run.parts.map((one) => (
              <li key={one.part} className={clsx(one.skipped && "text-graphite line-through")}>
                {clock(one.at)} {partWords(one.part)}
              </li>
            ))}
          </ul>
        </>
      )}
      <WhatWasShown key={String(page.shown)} letters={page.new} shown={page.shown} onTell={onTell} />
    </section>
  );
}

const several = (count: number, what: string) => `${count} ${what}${count === 1 ? "" : "s"}`;

/** A part of the note in words: "show n". */
export const partWords = (part: string) => part.replace(":", " ");

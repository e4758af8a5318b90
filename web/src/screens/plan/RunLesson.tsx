import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { LessonPage, PartDone } from "@/api/client";
import { useLesson, useNoteRun } from "@/api/plan";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { Button } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { MomentShown } from "./Moment";

/** A lesson for the whole room, part by part, with one key on and one back. */
export function RunLesson() {
  const { id } = useClass();
  const key = Number(useParams().key);
  const query = useLesson(id, key);
  return (
    <Loaded query={query} what="the lesson">
      {(page) => <Running key={key} page={page} />}
    </Loaded>
  );
}

function Running({ page }: { page: LessonPage }) {
  const { id } = useClass();
  const navigate = useNavigate();
  const note = useNoteRun(id, page.key);
  const { moments } = page;
  const goesOn = page.run && !page.run.finished_at ? page.run : null;
  const started = useRef(goesOn?.started_at ?? new Date().toISOString());
  const done = useRef<PartDone[]>(
    (goesOn?.parts ?? []).map(({ part, at, skipped }) => ({ part, at, skipped })),
  );
  const last = done.current.at(-1)?.part;
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      moments.findIndex((one) => one.key === last),
    ),
  );
  const [dark, setDark] = useState(false);
  const [mirrored, setMirrored] = useState(false);
  const [again, setAgain] = useState(0);
  const [longer, setLonger] = useState(0);
  const here = useRef(at); // keys come quicker than the page is drawn
  const moment = moments[at];
  const shown = moment?.show == null ? undefined : page.show[moment.show];
  const ended = at >= moments.length;

  const send = (finished: boolean) =>
    note.mutateAsync({ started_at: started.current, parts: done.current, finished });
  const reached = (index: number, skipped = false) => {
    const one = moments[index];
    if (!one) return;
    const part = one.key;
    const known = done.current.find((other) => other.part === part);
    done.current = known
      ? done.current.map((other) => (other.part === part ? { ...other, skipped } : other))
      : [...done.current, { part, at: new Date().toISOString(), skipped }];
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the first moment is noted when the lesson begins
  useEffect(() => {
    reached(at);
    send(false).catch(() => undefined);
  }, []);
  const go = (by: 1 | -1, skipping = false) => {
    const to = here.current + by;
    if (to < 0 || to > moments.length) return;
    if (skipping) reached(here.current, true);
    reached(to);
    here.current = to;
    setAt(to);
    setLonger(0);
    send(false).catch(() => undefined); // the whole note goes again with the next part
  };
  const end = async () => {
    try {
      await send(true);
      navigate("/today");
    } catch {
      // the note says why; the lesson can be ended again
    }
  };
  useKeys({
    ArrowRight: () => go(1),
    ArrowLeft: () => go(-1),
    " ": () => setAgain((count) => count + 1),
    s: () => go(1, true),
    l: () => setLonger((seconds) => seconds + 60),
    m: () => setMirrored((on) => !on),
    d: () => setDark((on) => !on),
  });
  return (
    <main className={clsx("flex min-h-full flex-col bg-paper px-6 pt-4 pb-4 text-ink", dark && "board-dark")}>
      <title>Lesson · First Loop</title>
      <h1 className="sr-only">
        Lesson of {page.day_says}, {page.class_name}
      </h1>
      <div className="flex flex-1 flex-col justify-center">
        {moment ? (
          <MomentShown key={`${moment.key} ${again}`} page={page} moment={moment} mirrored={mirrored} />
        ) : (
          <Ending page={page} done={done.current} />
        )}
      </div>
      {note.error && (
        <p role="alert" className="text-brick">
          {note.error.message} What was done is kept here, and sent with the next step.
        </p>
      )}
      <footer className="flex flex-wrap items-center gap-2">
        <Button shortcut="←" disabled={at === 0} onClick={() => go(-1)}>
          Back
        </Button>
        {ended ? (
          <Button look="strong" disabled={note.isPending} onClick={() => void end()}>
            End the lesson
          </Button>
        ) : (
          <Button look="strong" className="w-28" shortcut="→" onClick={() => go(1)}>
            On
          </Button>
        )}
        {moment && (
          <>
            <Button shortcut="S" onClick={() => go(1, true)}>
              Skip
            </Button>
            <Button shortcut="L" onClick={() => setLonger((seconds) => seconds + 60)}>
              Stay longer
            </Button>
            {((moment.part === "show" && !moment.slip) || moment.part === "air") && (
              <>
                <Button shortcut="Space" onClick={() => setAgain((count) => count + 1)}>
                  Again
                </Button>
                <Button shortcut="M" pressed={mirrored} onClick={() => setMirrored((on) => !on)}>
                  Mirrored
                </Button>
              </>
            )}
            {moment.part === "row" && shown && (
              <>
                <Button onClick={() => navigate(`/write?letter=${shown.item.text}`)}>Rows in Write</Button>
                <Button onClick={() => navigate(`/write/room?letter=${shown.item.text}`)}>On tablets</Button>
              </>
            )}
            {moment.part === "words" && (
              <Button
                onClick={() =>
                  navigate(`/write?what=words&words=${page.words.map((one) => one.text).join("%20")}`)
                }
              >
                Words in Write
              </Button>
            )}
            {moment.part === "words" && page.words[0] && (
              <Button
                onClick={() => navigate(`/write/room?text=${encodeURIComponent(page.words[0]?.text ?? "")}`)}
              >
                On tablets
              </Button>
            )}
          </>
        )}
        <Button shortcut="D" pressed={dark} onClick={() => setDark((on) => !on)}>
          Dark
        </Button>
        <p className="ml-auto text-graphite">
          {moment && <TimeLeft key={moment.key} seconds={moment.seconds} longer={longer} />}
          <span className="ml-4">{ended ? "the end" : `${at + 1} of ${moments.length}`}</span>
        </p>
        <Button look="quiet" onClick={() => navigate(`/plan/lesson/${page.key}`)}>
          Close
        </Button>
      </footer>
    </main>
  );
}

const TICK_MS = 5_000;

/** How long there still is for a part, quietly. */
function TimeLeft({ seconds, longer }: { seconds: number; longer: number }) {
  const [begun] = useState(() => Date.now());
  const [now, setNow] = useState(begun);
  useEffect(() => {
    const tick = window.setInterval(() => setNow(Date.now()), TICK_MS);
    return () => window.clearInterval(tick);
  }, []);
  if (!seconds && !longer) return null;
  const left = seconds + longer - (now - begun) / 1000;
  const whole = Math.ceil(left / 60);
  return (
    <span role="timer">
      {left <= 0 ? "time to go on" : whole <= 1 ? "a minute left" : `${whole} minutes left`}
    </span>
  );
}

function Ending({ page, done }: { page: LessonPage; done: PartDone[] }) {
  const skipped = page.new.filter(
    (one) => !done.some(({ part, skipped: out }) => part === `show:${one}` && !out),
  );
  return (
    <section aria-label="The end" className="text-center">
      <p className="text-[40px]">{page.aim}</p>
      <p className="mt-4 text-large text-graphite">
        {skipped.length
          ? `Not shown, and so moved on in the plan: ${skipped.join(", ")}.`
          : page.new.length
            ? "All that was new has been shown."
            : "That was the lesson."}
      </p>
    </section>
  );
}

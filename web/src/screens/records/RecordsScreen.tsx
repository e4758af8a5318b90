import { useState } from "react";
import { Link } from "react-router";
import { useKeepPictures, usePicturesKept } from "@/api/pages";
import { useCounts, useRecords, useSetAside, useTimeZone } from "@/api/records";
import { dayFormat } from "@/app/days";
import { PageHead } from "@/app/Shell";
import { useClass, useSchool } from "@/app/school";
import { Button, LINK } from "@/ui/Button";
import { AfterAYear } from "./AfterAYear";
import { Backup } from "./Backup";
import { DemoSchool } from "./DemoSchool";
import { OwnDoor, WhoDidWhat } from "./Guarding";
import { Archive, FileChoice, Part, PutAway, Trouble } from "./parts";

const writtenOn = dayFormat({ dateStyle: "long" });

/** What is kept, where, and how it is taken out, brought back and put away. */
export function RecordsScreen() {
  const { chosen, classes } = useSchool();
  return (
    <>
      <PageHead title="Care of records" />
      <div className="grid grid-cols-2 gap-x-12 gap-y-6 max-[900px]:grid-cols-1">
        <Kept />
        <Backup />
        <Pictures />
        <OneChild />
        <PutAway chosen={chosen} last={classes.length === 1} />
        <Archive />
        <AfterAYear />
        <DemoSchool />
        <Days />
        <SetAside />
        <OwnDoor />
        <WhoDidWhat />
      </div>
      <Limits />
    </>
  );
}

function Kept() {
  const { data: counts } = useCounts();
  return (
    <Part title="What is kept, and where">
      <p>
        First name and initial, which hand, the ink of every letter with when it was written, what the checker
        saw, your marks, what you watched, and your notes; of writing on paper the pages themselves. No
        surname, no birthday, no picture of a child.
      </p>
      {counts && (
        <p>
          Now {counts.classes} classes, {counts.children} children, {counts.rows} rows and {counts.attempts}{" "}
          letters written.
        </p>
      )}
      <p>
        It stays on this machine, in one file in the folder that First Loop named when it was started (pages
        that are still to be read lie beside it), and goes nowhere else by itself.
      </p>
    </Part>
  );
}

function OneChild() {
  const chosen = useClass();
  const { takeIn } = useRecords();
  return (
    <Part title="One child">
      <p>
        A child’s page exports everything of that child in one file (a report, a list for a spreadsheet, all
        ink), and erases the child; for thirty days the class’s page can bring it back.{" "}
        <Link className={LINK} to="/class">
          Choose a child
        </Link>
      </p>
      <FileChoice
        label={`Take a child into ${chosen.name}:`}
        onFile={(file) => takeIn.mutate({ classId: chosen.id, file })}
      />
      {takeIn.isPending && <p className="text-graphite">Taking the child in…</p>}
      <Trouble error={takeIn.error} />
      {takeIn.data && (
        <p role="status">
          <Link className={LINK} to={`/children/${takeIn.data.id}`}>
            {takeIn.data.name}
          </Link>{" "}
          is in {chosen.name} now.
        </p>
      )}
    </Part>
  );
}

/** How long the pictures that pages were found in are kept. */
function Pictures() {
  const kept = usePicturesKept().data;
  const keep = useKeepPictures();
  const [chosen, setChosen] = useState<string | null>(null);
  if (!kept) return null;
  const days = chosen ?? String(kept.days);
  return (
    <Part title="Pictures of pages">
      <p>
        A scan or photograph that you bring in is kept in grey, without the place, the time or the device that
        it names, and thrown away once you have decided about its pages. The page made straight and the line
        found on it stay with the child: they are in backups, in the child’s file, and gone when the child is
        erased.
      </p>
      <form
        className="flex flex-wrap items-center gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(Number(days), { onSuccess: () => setChosen(null) });
        }}
      >
        <label className="flex items-center gap-3">
          Thrown away after
          <input
            type="number"
            min={0}
            max={3650}
            value={days}
            onChange={(event) => setChosen(event.target.value)}
            className="h-10 w-24 rounded-sm border border-pale bg-sheet px-2"
          />
          days
        </label>
        <Button type="submit" disabled={days === "" || Number(days) === kept.days || keep.isPending}>
          Keep them so long
        </Button>
      </form>
      <Trouble error={keep.error} />
    </Part>
  );
}

function Days() {
  const { data: zone } = useTimeZone();
  const { moveTo } = useRecords();
  const [chosen, setChosen] = useState<string | null>(null);
  if (!zone) return null;
  const name = chosen ?? zone.name;
  return (
    <Part title="When a day begins">
      <p>
        Days, weeks and “today” are those of the school, wherever this page is looked at. They begin and end
        by the clock of {inWords(zone.name)}.
      </p>
      <form
        className="flex flex-wrap items-center gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          moveTo.mutate(name, { onSuccess: () => setChosen(null) });
        }}
      >
        <label className="flex items-center gap-3">
          Time zone
          <select
            value={name}
            onChange={(event) => setChosen(event.target.value)}
            className="h-10 rounded-sm border border-pale bg-sheet px-2"
          >
            {zone.names.map((one) => (
              <option key={one} value={one}>
                {inWords(one)}
              </option>
            ))}
          </select>
        </label>
        <Button type="submit" disabled={name === zone.name || moveTo.isPending}>
          {moveTo.isPending ? "Working it out anew…" : "Use this one"}
        </Button>
      </form>
      <p className="text-small text-graphite">
        What was written stays as it is; on which day it counts is worked out anew.
      </p>
      <Trouble error={moveTo.error} />
    </Part>
  );
}

/** "Europe/London" as a person writes it. */
const inWords = (zone: string) => zone.replaceAll("_", " ").split("/").reverse().join(", ");

/** Days that could not be worked out; nothing is shown while there are none. */
function SetAside() {
  const { data: days = [] } = useSetAside();
  if (!days.length) return null;
  return (
    <Part title="What could not be worked out">
      <p>The ink of these days is kept. They count for nothing until something on them changes.</p>
      <ul>
        {days.map((one) => (
          <li
            key={`${one.child.id} ${one.letter} ${one.day} ${one.why}`}
            className="border-b border-hair py-1"
          >
            {one.child.name}, {one.letter}, {writtenOn(one.day)}
            <span className="block text-small text-graphite">{one.why}</span>
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Limits() {
  return (
    <section aria-label="Rules and limits" className="mt-6 max-w-3xl space-y-2 border-t border-hair pt-3">
      <h2 className="font-bold">Rules that hold all the same</h2>
      <p>
        The data-protection and safeguarding rules of your country and your school apply to these records: who
        may see them, how long they are kept, what parents are told and may ask for. First Loop can show, take
        out and erase what it has of a child; whether you may keep it is for your school to say.
      </p>
      <h2 className="pt-2 font-bold">What First Loop is not for</h2>
      <p>
        It measures letters against your school’s own models and against the child’s own past. It does not
        diagnose, and it compares no child with a norm.
      </p>
      <p>
        Ask the qualified professionals your school works with when a child’s difficulty lasts for weeks in
        spite of good teaching, when writing hurts or tires a child much sooner than others, when the grip or
        the posture worries you, or when a child who could write no longer can.
      </p>
    </section>
  );
}

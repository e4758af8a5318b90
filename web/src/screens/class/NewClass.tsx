import { useState } from "react";
import { useNavigate } from "react-router";
import { useClassSteps } from "@/api/classes";
import { beginFirstDay } from "@/app/FirstDay";
import { PageHead } from "@/app/Shell";
import { useSchool } from "@/app/school";
import { Backup } from "@/screens/records/Backup";
import { DemoSchool } from "@/screens/records/DemoSchool";
import { Archive } from "@/screens/records/parts";
import { Button } from "@/ui/Button";
import { Care } from "./Care";

/** First start: no class yet, or none that is not put away. */
export function NewClass() {
  return (
    <main className="mx-auto max-w-2xl p-12">
      <title>First Loop</title>
      <h1 className="text-huge font-bold">First Loop</h1>
      <p className="mt-2 text-large">
        Models letters, catches how children write them, and remembers who needs what.
      </p>
      <ClassName />
      <div className="mt-10 grid gap-6">
        <DemoSchool />
        <Backup />
        <Archive />
      </div>
      <Care />
    </main>
  );
}

/** One more class beside those there are. */
export function AnotherClass() {
  const { choose } = useSchool();
  const navigate = useNavigate();
  return (
    <>
      <PageHead title="A new class" />
      <ClassName
        onMade={(id) => {
          choose(id);
          navigate("/class");
        }}
      />
    </>
  );
}

function ClassName({ onMade }: { onMade?: (id: number) => void }) {
  const [name, setName] = useState("");
  const { add } = useClassSteps();
  return (
    <form
      className="mt-8 max-w-2xl border-t-2 border-ink pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (!onMade) beginFirstDay(); // before the class is there: this screen goes with its coming
        add.mutate(name.trim(), { onSuccess: (made) => onMade?.(made.id) });
      }}
    >
      <label className="block">
        <span>What is {onMade ? "the class" : "your class"} called?</span>
        <input
          required
          value={name}
          maxLength={80}
          autoComplete="off"
          onChange={(event) => setName(event.target.value)}
          className="mt-1 h-12 w-full border-b-2 border-line bg-band px-3 text-large"
        />
      </label>
      <p className="mt-2 text-small text-graphite">
        It begins with upright print on four lines, 10 mm from base to mid line. All of that can be changed.
      </p>
      {add.error && (
        <p role="alert" className="mt-2 text-brick">
          {add.error.message}
        </p>
      )}
      <Button look="strong" type="submit" className="mt-4" disabled={!name.trim() || add.isPending}>
        Make the class
      </Button>
    </form>
  );
}

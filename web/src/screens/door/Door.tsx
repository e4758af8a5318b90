import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useDoor, useDoorSteps } from "@/api/door";
import { keys } from "@/api/keys";
import { Button } from "@/ui/Button";
import { PassphraseField } from "@/ui/PassphraseField";
import { Loading, Trouble } from "@/ui/States";

const FIELD = "mt-1 block h-14 w-full rounded-sm border border-pale bg-sheet px-4 text-large";

/** Everything of the teacher's stands behind this. On her own machine it is open. */
export function Door({ children }: { children: ReactNode }) {
  const query = useDoor();
  if (query.data?.is_open) return children;
  return (
    <main className="mx-auto flex min-h-screen max-w-xl flex-col justify-center p-8">
      {query.data ? (
        <Locked />
      ) : query.error ? (
        <Trouble error={query.error} again={() => query.refetch()} />
      ) : (
        <Loading what="the door" />
      )}
    </main>
  );
}

function Locked() {
  const { enter } = useDoorSteps();
  const [forgotten, setForgotten] = useState(false);
  const [said, setSaid] = useState("");
  if (forgotten) return <Recover onBack={() => setForgotten(false)} />;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        enter.mutate(said);
      }}
    >
      <title>The door · First Loop</title>
      <h1 className="text-title font-bold">First Loop</h1>
      <p className="mt-2 text-graphite">
        The records of children are behind this door. A child’s tablet comes in elsewhere:{" "}
        <a className="underline" href="/tablet">
          with the code on the board
        </a>
        .
      </p>
      <PassphraseField label="The teacher’s passphrase" value={said} onChange={setSaid} big />
      {enter.error && (
        <p role="alert" className="mt-3 text-brick">
          {enter.error.message}
        </p>
      )}
      <div className="mt-5 flex items-center justify-between">
        <Button look="quiet" onClick={() => setForgotten(true)}>
          I have forgotten it
        </Button>
        <Button look="strong" big type="submit" disabled={!said || enter.isPending}>
          Open
        </Button>
      </div>
    </form>
  );
}

function Recover({ onBack }: { onBack: () => void }) {
  const client = useQueryClient();
  const { recover } = useDoorSteps();
  const [words, setWords] = useState("");
  const [passphrase, setPassphrase] = useState("");
  if (recover.data) {
    return (
      <NewWords
        words={recover.data.words}
        onDone={() => {
          onBack();
          void client.invalidateQueries({ queryKey: keys.door() });
        }}
      />
    );
  }
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        recover.mutate({ words, passphrase });
      }}
    >
      <title>A new passphrase · First Loop</title>
      <h1 className="text-title font-bold">A new passphrase</h1>
      <label className="mt-6 block">
        The six recovery words, from when the passphrase was set
        <input value={words} onChange={(event) => setWords(event.target.value)} className={FIELD} />
      </label>
      <PassphraseField
        label="The new passphrase: four or five words"
        value={passphrase}
        onChange={setPassphrase}
        isNew
        big
      />
      {recover.error && (
        <p role="alert" className="mt-3 text-brick">
          {recover.error.message}
        </p>
      )}
      <p className="mt-4 text-small text-graphite">
        Without the words: on the computer that First Loop was started on, <code>first-loop passphrase</code>{" "}
        sets a new one.
      </p>
      <div className="mt-5 flex items-center justify-between">
        <Button look="quiet" onClick={onBack}>
          Back
        </Button>
        <Button look="strong" big type="submit" disabled={!words || !passphrase || recover.isPending}>
          Set it
        </Button>
      </div>
    </form>
  );
}

/** Recovery words, shown this once. */
export function NewWords({ words, onDone }: { words: string; onDone: () => void }) {
  return (
    <>
      <h2 className="text-title font-bold">Write these words down</h2>
      <p className="mt-4 border-l-4 border-ochre pl-4 text-large">{words}</p>
      <p className="mt-4 text-graphite">
        They open the door once, should the passphrase be forgotten. They are not shown again. Those you had
        before open nothing any more, and every session has ended.
      </p>
      <div className="mt-5 text-right">
        <Button look="strong" onClick={onDone}>
          They are written down
        </Button>
      </div>
    </>
  );
}

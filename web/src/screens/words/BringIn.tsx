import { useEffect, useState } from "react";
import type { WordListSeen } from "@/api/client";
import { listProgress, lookAtList, useBankSteps } from "@/api/words";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

type Props = { open: boolean; onOpenChange: (open: boolean) => void };

const ASK_MS = 400;
const plural = (count: number, what: string) =>
  `${count.toLocaleString("en-GB")} ${what}${count === 1 ? "" : "s"}`;

/** A list of words as a file: what it would change is seen before anything changes. */
export function BringIn({ open, onOpenChange }: Props) {
  const { take } = useBankSteps();
  const [file, setFile] = useState<File | null>(null);
  const [seen, setSeen] = useState<WordListSeen | null>(null);
  const [problem, setProblem] = useState("");
  const [job, setJob] = useState("");
  const lines = useProgress(job);
  const look = async (next: File | undefined) => {
    if (!next) return;
    const mine = crypto.randomUUID();
    setFile(next);
    setSeen(null);
    setProblem("");
    setJob(mine);
    try {
      setSeen(await lookAtList(next, mine));
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setJob("");
    }
  };
  const bring = async () => {
    if (!file) return;
    const mine = crypto.randomUUID();
    setJob(mine);
    try {
      await take.mutateAsync({ file, job: mine });
      onOpenChange(false);
      setFile(null);
      setSeen(null);
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setJob("");
    }
  };
  const changes = seen ? seen.new + seen.corrected : 0;
  return (
    <Dialog title="Bring a list of words in" wide open={open} onOpenChange={onOpenChange}>
      <p className="mb-3 text-graphite">
        A CSV file with one word a line: the word, its sounds with - between them (sh-e-ll), and yes where it
        is to know by heart. The last two may be missing: sounds are then proposed.
      </p>
      <input
        type="file"
        accept=".csv,.txt,text/csv,text/plain"
        aria-label="List of words"
        onChange={(event) => void look(event.target.files?.[0])}
      />
      {job && (
        <p role="status" className="mt-3">
          {lines ? `${plural(lines, "line")} read…` : "Reading…"}
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-3 text-brick">
          {problem}
        </p>
      )}
      {seen && (
        <>
          <p role="status" className="mt-3 font-bold">
            {plural(seen.new, "new word")}, {seen.corrected.toLocaleString("en-GB")} corrected,{" "}
            {seen.same.toLocaleString("en-GB")} as they are
            {seen.bad_lines > 0 && `, ${plural(seen.bad_lines, "line")} that cannot be read`}
          </p>
          {seen.bad.length > 0 && (
            <ul aria-label="Lines that cannot be read" className="mt-2 max-h-40 overflow-auto">
              {seen.bad.map((line) => (
                <li key={line.number} className="border-b border-hair py-1">
                  line {line.number}, “{line.text}”: <span className="text-brick">{line.why}</span>
                </li>
              ))}
            </ul>
          )}
          {seen.words.length > 0 && (
            <ul aria-label="What would change" className="mt-2 max-h-56 columns-2 gap-8 overflow-auto">
              {seen.words.map((word) => (
                <li key={word.number} className="break-inside-avoid border-b border-hair py-1">
                  <b>{word.text}</b> {word.units.join("-")}
                  {word.by_heart && " · by heart"}
                  <span className="text-small text-graphite">
                    {word.proposed && " proposed"}
                    {word.was && ` was ${word.was.join("-")}`}
                  </span>
                </li>
              ))}
            </ul>
          )}
          <div className="mt-4 flex items-center gap-3">
            <Button look="strong" disabled={!changes || take.isPending} onClick={() => void bring()}>
              {changes ? `Bring ${plural(changes, "word")} in` : "Nothing to bring in"}
            </Button>
            <p className="text-small text-graphite">One step: undo takes all of it back.</p>
          </div>
        </>
      )}
    </Dialog>
  );
}

/** How many lines of a job are read, asked now and then while it runs. */
function useProgress(job: string): number {
  const [lines, setLines] = useState(0);
  useEffect(() => {
    setLines(0);
    if (!job) return;
    const timer = setInterval(async () => setLines((await listProgress(job)).lines), ASK_MS);
    return () => clearInterval(timer);
  }, [job]);
  return lines;
}

import type { ToTell } from "@/api/client";
import { usePlanSteps } from "@/api/plan";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";

/** Lessons that are over with letters that nobody has written: one press says what happened. */
export function WasItShown({ asked }: { asked: ToTell[] }) {
  const { id } = useClass();
  const { tell } = usePlanSteps(id);
  if (!asked.length) return null;
  return (
    <section aria-label="Was it shown?" className="border-t-2 border-brick pt-2">
      <h2 className="font-bold">Was it shown?</h2>
      <ul className="space-y-2">
        {asked.map((one) => (
          <li key={one.key}>
            <p>{one.says}</p>
            <div className="mt-1 flex flex-wrap gap-2">
              <Button onClick={() => tell.mutate({ key: one.key, shown: [...one.shown, ...one.letters] })}>
                Yes, shown
              </Button>
              <Button onClick={() => tell.mutate({ key: one.key, shown: one.whole ? null : one.shown })}>
                No, move on
              </Button>
            </div>
          </li>
        ))}
      </ul>
      {tell.error && (
        <p role="alert" className="text-brick">
          {tell.error.message}
        </p>
      )}
    </section>
  );
}

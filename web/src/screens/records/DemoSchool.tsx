import { useAbout, useDemoSchool } from "@/api/queries";
import { Button } from "@/ui/Button";

/** The demo school, looked at beside one's own: another First Loop on this computer, with records of its own. */
export function DemoSchool() {
  const { data: about } = useAbout();
  const { state, url, start, error } = useDemoSchool();
  if (!about?.offers_demo) return null;
  return (
    <section aria-label="Demo school" className="border-t-2 border-ink pt-2">
      <h2 className="font-bold">Demo school</h2>
      <p className="text-graphite">
        A school with twelve weeks of writing, to look at and try things in. It opens beside yours, and
        nothing of it comes into your records.
      </p>
      <div className="mt-2" role="status">
        {state === "ready" ? (
          <a
            href={url}
            target="_blank"
            rel="noreferrer"
            className="inline-flex h-10 items-center rounded-sm border border-ink bg-ink px-3 text-paper"
          >
            Open the demo school
          </a>
        ) : state === "making" ? (
          "Its children are writing; this takes a minute or two the first time."
        ) : (
          <Button onClick={start}>Look at the demo school</Button>
        )}
        {state === "failed" && (
          <p className="text-brick">It could not be started. Your records are as they were.</p>
        )}
        {error && <p className="text-brick">{error.message}</p>}
      </div>
    </section>
  );
}

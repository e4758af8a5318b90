import { useChildSteps, useErased } from "@/api/classes";
import { momentFormat } from "@/app/days";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";

const day = momentFormat({ day: "numeric", month: "long" });

/** Children of the class that were erased and can still be brought back. */
export function ErasedChildren() {
  const { id } = useClass();
  const { data = [] } = useErased();
  const { bringBack, forget } = useChildSteps();
  const own = data.filter((one) => one.class_id === id);
  if (!own.length) return null;
  const problem = bringBack.error ?? forget.error;
  return (
    <section aria-label="Erased" className="mt-6 border-t border-hair pt-2">
      <h2 className="font-bold">
        Erased{" "}
        <span className="text-small font-normal text-graphite">and gone for good after thirty days</span>
      </h2>
      <ul>
        {own.map((one) => (
          <li key={one.id} className="flex items-center gap-4 border-b border-hair py-1">
            {one.name}
            <span className="text-small text-graphite">can be brought back until {day(one.until)}</span>
            <span className="ml-auto" />
            <Button onClick={() => bringBack.mutate(one.id)} disabled={bringBack.isPending}>
              Bring {one.name} back
            </Button>
            <Button look="quiet" onClick={() => forget.mutate(one.id)} disabled={forget.isPending}>
              Erase {one.name} for good now
            </Button>
          </li>
        ))}
      </ul>
      {problem && (
        <p role="alert" className="text-brick">
          {problem.message}
        </p>
      )}
    </section>
  );
}

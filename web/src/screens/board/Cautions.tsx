import { useState } from "react";
import { Button } from "@/ui/Button";

export const CAUTIONS = [
  "Feet flat on the floor",
  "Table at elbow height",
  "Paper tilted to suit the hand",
  "A loose grip",
  "A sharp pencil",
  "Stop when it hurts",
];
const SEEN = "first-loop.cautions";

/** What to look after before writing; put away until it is asked for again. */
export function Cautions() {
  const [shown, setShown] = useState(() => sessionStorage.getItem(SEEN) === null);
  const show = (on: boolean) => {
    if (on) sessionStorage.removeItem(SEEN);
    else sessionStorage.setItem(SEEN, "1");
    setShown(on);
  };
  if (!shown) {
    return (
      <button
        type="button"
        className="mb-1 self-start text-small text-graphite underline decoration-pale underline-offset-4"
        onClick={() => show(true)}
      >
        Before we write
      </button>
    );
  }
  return (
    <section aria-label="Before we write" className="mb-3 flex items-center gap-6 border-y border-pale py-2">
      <h2 className="font-bold whitespace-nowrap">Before we write</h2>
      <ul className="flex flex-1 flex-wrap gap-x-6">
        {CAUTIONS.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <Button look="quiet" onClick={() => show(false)}>
        Put away
      </Button>
    </section>
  );
}

import { useState } from "react";
import { useRule } from "@/api/dictations";

/** The rule by which a letter stands as it does, on demand. */
export function HowItStands() {
  const [open, setOpen] = useState(false);
  const rule = useRule(open).data;
  return (
    <details className="text-small text-graphite" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer underline decoration-pale underline-offset-4">
        How is this worked out?
      </summary>
      <ul className="mt-1 max-w-3xl list-disc space-y-1 pl-5">
        {rule?.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </details>
  );
}

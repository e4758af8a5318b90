import { useChooseNextStep } from "@/api/checking";
import type { Row } from "@/api/client";

/** The one thing to try next, chosen by rule; the teacher may choose another. */
export function NextStep({ row }: { row: Row }) {
  const choose = useChooseNextStep(row.id);
  const [first] = row.next_steps;
  return (
    <div className="mr-auto min-w-0 flex-1">
      <label className="block text-small text-graphite" htmlFor="next-step">
        Next time, for {row.child.first_name}
      </label>
      {row.next_steps.length > 1 && first ? (
        <select
          id="next-step"
          value={first.code}
          onChange={(event) => choose.mutate(event.target.value)}
          className="w-full max-w-[380px] truncate border-b border-pale bg-paper py-[2px] font-bold"
        >
          {row.next_steps.map((step) => (
            <option key={step.code} value={step.code}>
              {step.child} {step.times > 1 && `(${step.times} times)`}
            </option>
          ))}
        </select>
      ) : (
        <output id="next-step" className="block text-small leading-tight font-bold min-[1100px]:text-body">
          {row.next_time}
        </output>
      )}
      {choose.error && (
        <p role="alert" className="text-small text-brick">
          {choose.error.message}
        </p>
      )}
    </div>
  );
}

import type { Slip } from "@/api/client";

/** A slip as it was written; crossed out with two strokes. */
export function SlipInk({ slip, middle }: { slip: Slip & { crossed: boolean }; middle: number }) {
  const points = slip.points.flat();
  const xs = points.map((p) => p[0] ?? 0);
  const ys = points.map((p) => p[1] ?? 0);
  const [left, right] = [Math.min(...xs) - 20, Math.max(...xs) + 20];
  const [high, low] = [Math.min(...ys) - 15, Math.max(...ys) + 15];
  return (
    <g
      transform={`translate(${middle - (left + right) / 2} 0)`}
      fill="none"
      stroke="var(--color-ink)"
      strokeWidth={10}
      strokeLinecap="round"
      strokeLinejoin="round"
      opacity={slip.crossed ? 0.45 : 1}
    >
      {slip.paths.map((d) => (
        <path key={d} d={d} />
      ))}
      {slip.crossed && (
        <path
          d={`M ${left} ${high} L ${right} ${low} M ${right} ${high} L ${left} ${low}`}
          stroke="var(--color-brick)"
          strokeWidth={6}
        />
      )}
    </g>
  );
}

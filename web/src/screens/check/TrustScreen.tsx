import { useTolerance, useTrust } from "@/api/checking";
import type { Agreement } from "@/api/client";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";

const LEAST_SHOWN = 3;

/** Where the teacher's marks and the checks differ, code by code, and the tolerance that would mend it. */
export function TrustScreen() {
  const { id, name } = useClass();
  const query = useTrust(id);
  return (
    <>
      <PageHead title="Marks and checks" sub={name}>
        <LinkButton look="quiet" to="/check">
          Back to the queue
        </LinkButton>
      </PageHead>
      <Loaded query={query} what="your marks">
        {(trust) => {
          const codes = trust.codes.filter((one) => one.looked_at >= LEAST_SHOWN);
          const asked = codes.filter((one) => one.proposal);
          const own = Object.keys(trust.own).length;
          return trust.marked === 0 ? (
            <Empty title="You have not marked anything yet">
              <LinkButton to="/check">Mark some rows first</LinkButton>
            </Empty>
          ) : (
            <>
              <p className="max-w-[70ch]">
                You and the checker say the same of {trust.agreed} in {trust.marked} letters you marked. A row
                below holds every letter where one thing alone was told: a full dot where you agreed that it
                was a slip, an open one where you let it pass. Your mark always wins; a tolerance changes only
                when you say so, and only from then on.
              </p>
              <p className="mt-1 text-small text-graphite">
                {asked.length === 0
                  ? "Nothing to change: no slip was let pass often enough."
                  : `${asked.length} to decide.`}{" "}
                {own > 0 && `${own} of this class’s own.`}
              </p>
              <ul className="mt-3 border-t-2 border-ink">
                {[...asked, ...codes.filter((one) => !one.proposal)].map((one) => (
                  <Code key={one.code} one={one} />
                ))}
              </ul>
            </>
          );
        }}
      </Loaded>
    </>
  );
}

function Code({ one }: { one: Agreement }) {
  const { id } = useClass();
  const change = useTolerance(id);
  const { proposal, tolerance } = one;
  const set = (value: number | null) => change.mutate({ code: one.code, tolerance: value });
  return (
    <li className="grid grid-cols-[148px_minmax(0,1fr)_minmax(0,372px)] items-center gap-6 border-b max-[900px]:grid-cols-1 border-hair py-2">
      <div>
        <h2 className="font-bold first-letter:uppercase">{one.name}</h2>
        <p className="text-small text-graphite">
          agreed {one.agreed} of {one.looked_at}
        </p>
      </div>
      <Dots one={one} />
      <div className="text-small">
        {proposal && tolerance !== null && (
          <div className="flex flex-wrap items-center gap-3">
            <p>
              You ticked {proposal.ticked} of {proposal.looked_at} that were {proposal.between} off; growing
              allows {one.tolerance_said}.
            </p>
            <Button look="strong" onClick={() => set(proposal.tolerance)} disabled={change.isPending}>
              Allow {proposal.said}
            </Button>
          </div>
        )}
        {one.own_said && (
          <div className="flex flex-wrap items-center gap-3">
            <p>This class allows {one.own_said}.</p>
            <Button look="quiet" onClick={() => set(null)} disabled={change.isPending}>
              Back to {one.house_tolerance_said}
            </Button>
          </div>
        )}
        {!proposal && !one.own_said && (
          <p className="text-graphite">
            {tolerance === null
              ? "A slip whenever it occurs."
              : `Growing allows ${tolerance ? one.tolerance_said : "none"}.`}
          </p>
        )}
        {change.error && (
          <p role="alert" className="text-brick">
            {change.error.message}
          </p>
        )}
      </div>
    </li>
  );
}

const WIDE = 480;
const TALL = 44;

/** Every value as a dot on a line from none to three times what is allowed. */
function Dots({ one }: { one: Agreement }) {
  const most = one.tolerance ? one.tolerance * 3 : Math.max(...one.seen.map((dot) => dot.value), 1);
  const x = (value: number) => 8 + (Math.min(value, most) / most) * (WIDE - 16);
  const ticked = one.seen.filter((dot) => dot.let_pass).length;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${TALL}`}
      className="w-full"
      role="img"
      aria-label={`${one.name}: ${ticked} let pass, ${one.seen.length - ticked} agreed`}
    >
      <line x1={8} x2={WIDE - 8} y1={30} y2={30} stroke="var(--color-line)" strokeWidth={1.6} />
      {one.tolerance && (
        <g>
          <line x1={x(one.tolerance)} x2={x(one.tolerance)} y1={4} y2={38} stroke="var(--color-ink)" />
          <text x={x(one.tolerance) - 5} y={12} fontSize={12} textAnchor="end" fill="var(--color-graphite)">
            allows
          </text>
        </g>
      )}
      {one.proposal && (
        <line
          x1={x(one.proposal.tolerance)}
          x2={x(one.proposal.tolerance)}
          y1={4}
          y2={38}
          stroke="var(--color-brick)"
          strokeDasharray="3 3"
        />
      )}
      {one.seen.map((dot, i) => (
        <circle
          // biome-ignore lint/suspicious/noArrayIndexKey: sorted by value, and nothing else tells dots apart
          key={i}
          cx={x(dot.value)}
          cy={30 - (i % 4) * 5}
          r={3.2}
          fill={dot.let_pass ? "var(--color-paper)" : "var(--color-ink)"}
          stroke="var(--color-ink)"
          strokeWidth={1.2}
        />
      ))}
    </svg>
  );
}

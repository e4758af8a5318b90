import { useEffect, useState, useSyncExternalStore } from "react";
import type { StrokeInk } from "@/api/client";
import { useAbout } from "@/api/queries";
import { type Refused, refusals, throwAway, waitingCount, watch } from "@/ink/outbox";
import { Button, LINK } from "@/ui/Button";

const LATE_MS = 1500;

/** What has not reached the records: on its way still, or turned away and waiting for a person to decide. */
export function Waiting() {
  const refused = useSyncExternalStore(watch, refusals);
  const count = useSyncExternalStore(watch, waitingCount);
  return (
    <>
      {count > 0 && <OnItsWay count={count} />}
      {refused.map((one) => (
        <TurnedAway key={one.name} refused={one} />
      ))}
    </>
  );
}

/** Said when First Loop does not answer: nothing is lost meanwhile. */
function OnItsWay({ count }: { count: number }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), LATE_MS);
    return () => clearTimeout(timer);
  }, []);
  if (!late) return null;
  return (
    <p role="status" className={STRIPE}>
      {count === 1 ? "One letter or word is" : `${count} letters are`} kept on this device until First Loop
      answers again. Go on writing.
    </p>
  );
}

/** Said when a letter is safe nowhere yet: it is still under the pen. */
export const NotKept = () => (
  <p role="alert" className="border-l-4 border-brick px-6 py-1 text-small">
    This could be kept neither on this device nor in the records, so it stays on the paper. Make room on the
    device or start First Loop again, then go on.
  </p>
);

const TurnedAway = ({ refused }: { refused: Refused }) => (
  <p role="alert" className={`${STRIPE} flex items-center gap-4`}>
    <span>Something written on this device could not be kept. {refused.why}</span>
    <a
      className={`${LINK} text-body text-ink`}
      download="writing.json"
      href={`data:application/json,${encodeURIComponent(JSON.stringify(refused.ink))}`}
    >
      Save its ink
    </a>
    <Button look="quiet" onClick={() => throwAway(refused.name)}>
      Throw it away
    </Button>
  </p>
);

const STRIPE = "border-l-4 border-ochre px-6 py-1 text-small text-graphite";

type PenProps = { ink: () => Promise<StrokeInk[]>; feed: (strokes: StrokeInk[]) => Promise<boolean> };

/** For showing the screen without a tablet: writes what comes next. */
export function SimulatedPen({ ink, feed }: PenProps) {
  const { data } = useAbout();
  const [busy, setBusy] = useState(false);
  if (!data?.simulated_pen) return null;
  const write = async () => {
    setBusy(true);
    try {
      await feed(await ink());
    } finally {
      setBusy(false);
    }
  };
  return (
    <Button big look="quiet" onClick={() => void write()} disabled={busy}>
      Simulated pen
    </Button>
  );
}

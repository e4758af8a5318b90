import { useEffect, useState } from "react";
import type { StrokeInk } from "@/api/client";
import { useAbout } from "@/api/queries";
import { refusal } from "@/ink/outbox";
import { Button } from "@/ui/Button";

/** Said when First Loop does not answer: nothing is lost meanwhile. */
export function Waiting({ count }: { count: number }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), 1500);
    return () => clearTimeout(timer);
  }, []);
  if (!late) return null;
  return (
    <p role="status" className="border-l-4 border-ochre px-6 py-1 text-small text-graphite">
      {count === 1 ? "One letter or word is" : `${count} letters are`} kept on this device until First Loop
      answers again. {refusal() ?? "Go on writing."}
    </p>
  );
}

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
    <Button look="quiet" onClick={() => void write()} disabled={busy}>
      Simulated pen
    </Button>
  );
}

import { useEffect, useState } from "react";
import { dayFormat } from "@/app/days";
import { Button } from "@/ui/Button";

const STEP_MS = 700;
const day = dayFormat({ weekday: "short", day: "numeric", month: "short" });

/** A day of those on which the class wrote; played, the map changes over the term. */
export function TermSlider(props: {
  dates: string[];
  on: string | undefined;
  onChoose: (day: string) => void;
}) {
  const { dates, on, onChoose } = props;
  const [playing, setPlaying] = useState(false);
  const last = dates.length - 1;
  const found = on ? dates.findIndex((one) => one >= on) : -1;
  const at = found < 0 ? last : found;
  useEffect(() => {
    if (!playing) return;
    const timer = setTimeout(() => {
      const next = dates[at + 1];
      if (at + 1 >= last) setPlaying(false);
      onChoose(at + 1 >= last ? "" : (next ?? ""));
    }, STEP_MS);
    return () => clearTimeout(timer);
  }, [playing, at, last, dates, onChoose]);
  if (dates.length < 2) return null;
  const start = () => {
    if (at >= last) onChoose(dates[0] ?? "");
    setPlaying(!playing);
  };
  return (
    <div className="ml-auto flex items-center gap-3 text-small">
      <label className="flex items-center gap-2">
        <span className="text-graphite">As it stood on</span>
        <input
          type="range"
          min={0}
          max={last}
          value={at}
          aria-valuetext={day(dates[at] ?? "")}
          onChange={(event) => {
            setPlaying(false);
            const next = Number(event.target.value);
            onChoose(next === last ? "" : (dates[next] ?? ""));
          }}
          className="w-52 accent-ink"
        />
        <span className="w-24" aria-hidden="true">
          {at === last ? "today" : day(dates[at] ?? "")}
        </span>
      </label>
      <Button pressed={playing} onClick={start}>
        {playing ? "Stop" : "Play the term"}
      </Button>
    </div>
  );
}

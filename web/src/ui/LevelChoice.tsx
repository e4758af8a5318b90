import type { Level } from "@/api/client";

const LEVELS: Level[] = ["starting", "growing", "settled"];

/** How strict the checks are; a child may follow the class. */
export function LevelChoice(props: {
  level: Level | null;
  onChoose: (level: Level | null) => void;
  /** The class's level, offered where one may follow it. */
  followed?: Level;
}) {
  const { level, onChoose, followed } = props;
  return (
    <label className="flex flex-wrap items-center gap-x-2 text-small text-graphite">
      Level
      <select
        value={level ?? ""}
        onChange={(event) => onChoose(LEVELS.find((one) => one === event.target.value) ?? null)}
        className="h-8 rounded-sm border border-pale bg-paper px-1 text-body text-ink"
      >
        {followed && <option value="">as the class ({followed})</option>}
        {LEVELS.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
    </label>
  );
}

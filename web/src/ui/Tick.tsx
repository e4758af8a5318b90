import { type ReactNode, useEffect, useState } from "react";

/** Something that is so or not, ticked; it shows at once what is still being kept. */
export function Tick(props: { on: boolean; onTick: (on: boolean) => void; children: ReactNode }) {
  const [on, setOn] = useState(props.on);
  useEffect(() => setOn(props.on), [props.on]);
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        checked={on}
        onChange={(event) => {
          setOn(event.target.checked);
          props.onTick(event.target.checked);
        }}
        className="size-5 accent-ink"
      />
      {props.children}
    </label>
  );
}

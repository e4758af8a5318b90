import { type ReactNode, useEffect, useRef, useState } from "react";
import { useKeys } from "@/app/useKeys";
import { Button } from "@/ui/Button";

const HOLD_MS = 1200;
const AFTER_MS = 80;

/**
 * The way out of a child's page: shut until a teacher holds the button, or presses Escape. What lies behind
 * it leads to names and menus.
 */
export function TeacherOnly({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [held, setHeld] = useState<"not" | "not yet" | "long enough">("not");
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const later = (act: () => void, ms: number) => {
    clearTimeout(timer.current);
    timer.current = setTimeout(act, ms);
  };
  const hold = () => {
    setHeld("not yet");
    later(() => setHeld("long enough"), HOLD_MS);
  };
  const letGo = (on = false) => {
    if (held === "not") return; // a finger that is lifted leaves as well
    clearTimeout(timer.current);
    setHeld("not");
    // what the browser makes of the same touch comes first: it must not press what opens there
    if (on && held === "long enough") later(() => setOpen(true), AFTER_MS);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  useKeys({ Escape: () => setOpen(!open) });
  if (open) {
    return (
      <fieldset className="flex items-center gap-2 border-l-4 border-ochre pl-4">
        <legend className="sr-only">For the teacher</legend>
        {children}
        <Button big look="quiet" shortcut="Esc" onClick={() => setOpen(false)}>
          Go on
        </Button>
      </fieldset>
    );
  }
  return (
    <Button
      big
      look="quiet"
      aria-description="Hold it to open, or press Escape."
      className="relative touch-none overflow-hidden select-none"
      onPointerDown={hold}
      onPointerUp={() => letGo(true)}
      onPointerCancel={() => letGo()}
      onPointerLeave={() => letGo()}
      onContextMenu={(event) => event.preventDefault()}
      onClick={(event) => event.detail === 0 && setOpen(true) /* by a key: no child's tablet has any */}
    >
      <span
        aria-hidden="true"
        className="absolute bottom-0 left-0 h-1 w-full origin-left bg-ink"
        style={{
          transform: `scaleX(${held === "not" ? 0 : 1})`,
          transition: held === "not" ? "none" : `transform ${HOLD_MS}ms linear`,
        }}
      />
      {held === "long enough" ? "Let go" : "Teacher: hold"}
    </Button>
  );
}

import { useEffect, useState } from "react";

/** A value once it has stopped changing for a moment: who drags or types asks once, not at every step. */
export function useSettled<T>(value: T, moment_ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), moment_ms);
    return () => clearTimeout(timer);
  }, [value, moment_ms]);
  return settled;
}

import { type RefObject, useEffect, useRef, useState } from "react";

export type Size = { width: number; height: number };

/** Size of an element on the page, kept up to date; null until it is known. */
export function useSize(): [RefObject<HTMLDivElement | null>, Size | null] {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<Size | null>(null);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => setSize({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const watcher = new ResizeObserver(measure);
    watcher.observe(element);
    return () => watcher.disconnect();
  }, []);
  return [box, size];
}

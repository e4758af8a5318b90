import { useCallback, useEffect, useRef, useState } from "react";

const CALM_MS = 1600; // how long one move stands still at steady speed

const reducedMotion = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

export type Clock = {
  /** Milliseconds into the model's own time. */
  at: number;
  playing: boolean;
  play: () => void;
  pause: () => void;
  toggle: () => void;
  /** Go to a time and stand still there. */
  seek: (ms: number) => void;
  /** From the beginning. */
  repeat: () => void;
};

/**
 * A clock that runs from 0 to `duration` at `speed`. With reduced motion it steps: it stands a calm while at
 * each of the `stops`. It stands still at each of the `pauses` until played on.
 */
export function useClock(
  duration: number,
  speed: number,
  stops: number[] = [],
  pauses: number[] = [],
): Clock {
  const [at, setAt] = useState(duration);
  const [playing, setPlaying] = useState(false);
  const time = useRef(duration);
  const latestPauses = useRef(pauses);
  latestPauses.current = pauses;
  const latestStops = useRef(stops);
  latestStops.current = stops;

  useEffect(() => {
    time.current = duration;
    setAt(duration);
    setPlaying(false);
  }, [duration]);

  const move = useCallback((ms: number) => {
    time.current = ms;
    setAt(ms);
  }, []);

  useEffect(() => {
    if (!playing) return;
    if (reducedMotion()) {
      const step = () => {
        const next = latestStops.current.find((stop) => stop > time.current + 1) ?? duration;
        move(next);
        if (next >= duration || latestPauses.current.includes(next)) setPlaying(false);
      };
      step();
      const timer = setInterval(step, CALM_MS / speed);
      return () => clearInterval(timer);
    }
    let last: number | undefined;
    let frame = requestAnimationFrame(function tick(now) {
      const wanted = Math.min(duration, time.current + (now - (last ?? now)) * speed);
      const held = latestPauses.current.find((one) => one > time.current && one <= wanted);
      const next = held ?? wanted;
      last = now;
      move(next);
      if (held !== undefined || next >= duration) setPlaying(false);
      else frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, duration, speed, move]);

  const start = useCallback(
    (from: number) => {
      move(from);
      setPlaying(true);
    },
    [move],
  );

  const pause = useCallback(() => setPlaying(false), []);
  const play = useCallback(() => start(time.current >= duration ? 0 : time.current), [start, duration]);
  return {
    at,
    playing,
    play,
    pause,
    toggle: playing ? pause : play,
    seek: useCallback(
      (ms: number) => {
        setPlaying(false);
        move(ms);
      },
      [move],
    ),
    repeat: useCallback(() => start(0), [start]),
  };
}

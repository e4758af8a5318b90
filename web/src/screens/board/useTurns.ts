import { useCallback, useEffect, useRef, useState } from "react";
import type { Clock } from "@/ink/useClock";

export type Turns = {
  running: boolean;
  /** Whether the class is writing now. */
  writing: boolean;
  round: number;
  /** How much of the time to write has passed, 0 to 1. */
  share: number;
  count: number;
  setCount: (count: number) => void;
  /** How much longer than the pen the class has to write. */
  room: number;
  setRoom: (room: number) => void;
  start: () => void;
  stop: () => void;
};

/** Watch, then write: the model plays, then the class has its time on the empty line, `count` times. */
export function useTurns(clock: Clock, durationMs: number, speed: number): Turns {
  const [count, setCount] = useState(3);
  const [room, setRoom] = useState(1.5);
  const [round, setRound] = useState(0); // 0 while no turns run
  const [writing, setWriting] = useState(false);
  const [share, setShare] = useState(0);
  const started = useRef(false);
  const { at, playing } = clock;
  const latest = useRef(clock.repeat);
  latest.current = clock.repeat;
  const repeat = useCallback(() => latest.current(), []);

  const stop = useCallback(() => {
    started.current = false;
    setRound(0);
    setWriting(false);
    setShare(0);
  }, []);

  const start = useCallback(() => {
    setRound(1);
    setWriting(false);
    started.current = false;
    repeat();
  }, [repeat]);

  useEffect(() => {
    if (playing) started.current = true;
    const played = round > 0 && !writing && started.current && !playing && at >= durationMs;
    if (played) setWriting(true);
  }, [playing, at, durationMs, round, writing]);

  useEffect(() => {
    if (!writing) return;
    const begun = performance.now();
    const lasts = (room * durationMs) / speed;
    let frame = requestAnimationFrame(function tick(now) {
      const passed = (now - begun) / lasts;
      setShare(Math.min(1, passed));
      if (passed < 1) {
        frame = requestAnimationFrame(tick);
        return;
      }
      setWriting(false);
      setShare(0);
      started.current = false;
      if (round >= count) setRound(0);
      else {
        setRound(round + 1);
        repeat();
      }
    });
    return () => cancelAnimationFrame(frame);
  }, [writing, durationMs, speed, room, round, count, repeat]);

  return { running: round > 0, writing, round, share, count, setCount, room, setRoom, start, stop };
}

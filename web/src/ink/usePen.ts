import { type RefObject, useCallback, useEffect, useRef, useState } from "react";
import type { StrokeInk } from "@/api/client";
import { type Kind, Pointers } from "./pointers";

/** Where the paper lies under the canvas: pixels for a millimetre, and the page place of its corner. */
export type Paper = { pxPerMm: number; leftMm: number; topMm: number };

type Stroke = { x: number[]; y: number[]; t: number[]; f: number[] };
type Sample = { x: number; y: number; t: number; f: number };

const NIB_MM = 0.62;
const MOUSE_FORCE = 0.5;
const HUNDREDTH = 100;
const REST_MS = 1000; // between ink that was put back and what follows it

const round = (value: number) => Math.round(value * HUNDREDTH) / HUNDREDTH;

/** Width of the line at a pressure, millimetres. */
const nib = (force: number) => NIB_MM * (0.7 + 0.6 * force);

function drawPiece(context: CanvasRenderingContext2D, paper: Paper, stroke: Stroke, from: number) {
  const at = (i: number): [number, number] => [
    ((stroke.x[i] ?? 0) - paper.leftMm) * paper.pxPerMm,
    ((stroke.y[i] ?? 0) - paper.topMm) * paper.pxPerMm,
  ];
  for (let i = Math.max(1, from); i < stroke.x.length; i++) {
    context.lineWidth = nib(stroke.f[i] ?? MOUSE_FORCE) * paper.pxPerMm;
    context.beginPath();
    context.moveTo(...at(i - 1));
    context.lineTo(...at(i));
    context.stroke();
  }
  if (stroke.x.length === 1) {
    const [x, y] = at(0);
    context.beginPath();
    context.arc(x, y, (nib(stroke.f[0] ?? MOUSE_FORCE) * paper.pxPerMm) / 2, 0, 2 * Math.PI);
    context.fill();
  }
}

export type Pen = {
  canvas: RefObject<HTMLCanvasElement | null>;
  /** Whether anything is on the paper. */
  hasInk: boolean;
  /** What is on the paper, stroke by stroke. It stays there until it is dropped. */
  ink: () => StrokeInk[];
  /** Take strokes off the paper, from the first on: they are safe elsewhere. */
  drop: (count: number) => void;
  /** Put strokes back under the pen that were there before the page was left; nothing where there is ink. */
  restore: (strokes: StrokeInk[]) => void;
  /** Rub out everything not yet taken. */
  clear: () => void;
  /** Let a simulated pen write strokes in their own time; true when it wrote to the end. */
  feed: (strokes: StrokeInk[]) => Promise<boolean>;
};

type Options = {
  paper: Paper | null;
  enabled: boolean;
  /** Called when the pen goes down at a page place; says whether it may write there now. */
  onDown?: (xMm: number) => void;
  /** Called with what is on the paper whenever the pen comes up or strokes are rubbed out. */
  onChange?: (strokes: StrokeInk[]) => void;
};

/**
 * Ink from a pen, a finger or a mouse on one canvas: every coalesced point with its time and
 * pressure, drawn as it comes and kept in page millimetres. Of a hand that rests on the glass nothing
 * is kept (see pointers.ts).
 */
export function usePen({ paper, enabled, onDown, onChange }: Options): Pen {
  const canvas = useRef<HTMLCanvasElement>(null);
  const strokes = useRef<Stroke[]>([]);
  const [hasInk, setHasInk] = useState(false);
  const options = useRef({ paper, onDown, onChange });
  options.current = { paper, onDown, onChange };
  const running = useRef(0);
  const begun = useRef<number | null>(null);

  const redraw = useCallback(() => {
    const context = canvas.current?.getContext("2d");
    const { paper } = options.current;
    if (!context || !canvas.current || !paper) return;
    const ratio = window.devicePixelRatio || 1;
    const box = canvas.current.getBoundingClientRect();
    canvas.current.width = Math.round(box.width * ratio);
    canvas.current.height = Math.round(box.height * ratio);
    context.scale(ratio, ratio);
    const ink = getComputedStyle(canvas.current).color;
    context.strokeStyle = ink;
    context.fillStyle = ink;
    context.lineCap = "round";
    context.lineJoin = "round";
    for (const stroke of strokes.current) drawPiece(context, paper, stroke, 1);
  }, []);

  const add = useCallback((stroke: Stroke, samples: Sample[], paper: Paper | null) => {
    const context = canvas.current?.getContext("2d");
    if (!paper || !context) return;
    const from = stroke.x.length;
    for (const sample of samples) {
      stroke.x.push(round(sample.x));
      stroke.y.push(round(sample.y));
      stroke.t.push(Math.round(sample.t * 10) / 10);
      stroke.f.push(round(sample.f));
    }
    if (strokes.current.includes(stroke)) drawPiece(context, paper, stroke, from);
  }, []);

  const begin = useCallback((stroke: Stroke = { x: [], y: [], t: [], f: [] }) => {
    strokes.current.push(stroke);
    setHasInk(true);
    return stroke;
  }, []);

  const ready = enabled && paper !== null;

  // biome-ignore lint/correctness/useExhaustiveDependencies: when the paper lies otherwise, the ink is drawn anew
  useEffect(redraw, [redraw, paper, ready]);

  useEffect(() => {
    const sheet = canvas.current;
    if (!sheet || !ready) return;
    const held = new Map<number, { stroke: Stroke; paper: Paper; down: boolean }>();

    const sample = (event: PointerEvent, on: Paper): Sample => {
      const box = sheet.getBoundingClientRect();
      begun.current ??= event.timeStamp;
      return {
        x: on.leftMm + (event.clientX - box.left) / on.pxPerMm,
        y: on.topMm + (event.clientY - box.top) / on.pxPerMm,
        t: event.timeStamp - begun.current,
        f: event.pointerType === "mouse" ? MOUSE_FORCE : event.pressure,
      };
    };
    const pointers = new Pointers({
      begin: (id) => {
        const one = held.get(id);
        if (!one) return;
        running.current++; // a hand takes over from a simulated pen
        options.current.onDown?.(one.stroke.x[0] ?? 0);
        begin(one.stroke);
        const context = sheet.getContext("2d");
        if (context) drawPiece(context, one.paper, one.stroke, 1);
      },
      takeBack: (id) => {
        const stroke = held.get(id)?.stroke;
        held.delete(id);
        const others = strokes.current.filter((one) => one !== stroke);
        if (others.length === strokes.current.length) return;
        strokes.current = others;
        setHasInk(others.length > 0);
        redraw();
        options.current.onChange?.(strokes.current);
      },
      end: (id) => {
        if (held.get(id)?.paper !== options.current.paper) redraw();
        options.current.onChange?.(strokes.current);
      },
    });
    const down = (event: PointerEvent) => {
      const { paper } = options.current;
      if (!paper || event.button !== 0) return;
      event.preventDefault();
      const first = sample(event, paper);
      const stroke: Stroke = { x: [], y: [], t: [], f: [] };
      held.set(event.pointerId, { stroke, paper, down: true });
      add(stroke, [first], paper);
      const contact = Math.max(event.width, event.height);
      if (!pointers.down(event.pointerId, event.pointerType as Kind, first, contact)) {
        held.delete(event.pointerId);
        return;
      }
      try {
        sheet.setPointerCapture(event.pointerId);
      } catch {
        // the pointer is already gone: its points still count
      }
    };
    const move = (event: PointerEvent) => {
      if (event.pointerType === "pen") pointers.penNear();
      const one = held.get(event.pointerId);
      if (!one?.down) return;
      const { stroke, paper } = one; // the paper as it lay when the pen went down
      const all = event.getCoalescedEvents?.() ?? [];
      for (const point of all.length ? all : [event]) {
        const next = sample(point, paper);
        add(stroke, [next], paper);
        pointers.move(event.pointerId, next);
      }
    };
    const lifted = (event: PointerEvent) => {
      const one = held.get(event.pointerId);
      if (one) one.down = false; // it is remembered: a pen may still take back what it left
    };
    const up = (event: PointerEvent) => {
      lifted(event);
      pointers.up(event.pointerId, event.timeStamp - (begun.current ?? 0));
    };
    const cancel = (event: PointerEvent) => {
      lifted(event);
      pointers.cancel(event.pointerId);
    };
    const resize = new ResizeObserver(redraw);
    resize.observe(sheet);
    sheet.addEventListener("pointerdown", down);
    sheet.addEventListener("pointermove", move);
    sheet.addEventListener("pointerup", up);
    sheet.addEventListener("pointercancel", cancel);
    return () => {
      resize.disconnect();
      sheet.removeEventListener("pointerdown", down);
      sheet.removeEventListener("pointermove", move);
      sheet.removeEventListener("pointerup", up);
      sheet.removeEventListener("pointercancel", cancel);
    };
  }, [ready, redraw, add, begin]);

  const clear = useCallback(() => {
    running.current++;
    begun.current = null;
    strokes.current = [];
    setHasInk(false);
    redraw();
    options.current.onChange?.([]);
  }, [redraw]);

  const ink = useCallback(() => strokes.current.filter((stroke) => stroke.x.length > 0), []);

  const drop = useCallback(
    (count: number) => {
      strokes.current = strokes.current.filter((stroke) => stroke.x.length > 0).slice(count);
      if (strokes.current.length === 0) begun.current = null;
      setHasInk(strokes.current.length > 0);
      redraw();
      options.current.onChange?.(strokes.current);
    },
    [redraw],
  );

  const restore = useCallback(
    (given: StrokeInk[]) => {
      if (strokes.current.length || !given.length) return;
      strokes.current = given.map(({ x, y, t, f }) => ({
        x: [...x],
        y: [...y],
        t: t ? [...t] : x.map(() => 0),
        f: f ? [...f] : x.map(() => MOUSE_FORCE),
      }));
      const last = strokes.current.at(-1)?.t.at(-1) ?? 0;
      begun.current = performance.now() - last - REST_MS; // time goes on from where it stood
      setHasInk(true);
      redraw();
    },
    [redraw],
  );

  const feed = useCallback(
    async (given: StrokeInk[]) => {
      const mine = ++running.current;
      const start = performance.now();
      const frame = () => new Promise<number>((done) => requestAnimationFrame(done));
      for (const source of given) {
        const stroke = begin();
        for (let next = 0; next < source.x.length; ) {
          if (running.current !== mine) return false;
          const now = (await frame()) - start;
          const due: Sample[] = [];
          while (next < source.x.length && (source.t?.[next] ?? 0) <= now) {
            due.push({
              x: source.x[next] ?? 0,
              y: source.y[next] ?? 0,
              t: source.t?.[next] ?? 0,
              f: source.f?.[next] ?? MOUSE_FORCE,
            });
            next++;
          }
          if (due.length && running.current === mine) add(stroke, due, options.current.paper);
        }
        options.current.onChange?.(strokes.current);
      }
      return running.current === mine;
    },
    [add, begin],
  );

  return { canvas, hasInk, ink, drop, restore, clear, feed };
}

/*
 * Which of several pointers writes. A hand rests on the glass before, while and after it writes: what rests
 * must never be taken for writing, nor keep it from being seen.
 */

export type Place = { x: number; y: number; t: number };
export type Kind = "pen" | "touch" | "mouse";

type Hooks = {
  /** This pointer writes: all it has given since it went down is a stroke. */
  begin: (id: number) => void;
  /** What it has given was no writing, whether it had begun to write or not. */
  takeBack: (id: number) => void;
  /** The stroke it has written is done. */
  end: (id: number) => void;
};

/** ``writerThen``: how far the one that wrote had come when this one went down. */
type Down = { id: number; kind: Kind; since: number; last: Place; travel: number; writerThen: number };

/** Wider on the glass than any finger, CSS pixels. */
const PALM_PX = 72;
/** A touch that has come so far moves as writing does, millimetres. */
const WRITES_MM = 2;
/** A touch that had come so far before another came down is not taken back for it. */
const FIRM_MM = 8;
/** A touch that takes the place of one that had begun has moved so many times as far since. */
const LIVELIER = 2;
/** A touch that stays in place longer than this rests. */
const TAP_MS = 700;

/** Decides, from what goes down, moves and comes up, which pointer writes: one at a time. */
export class Pointers {
  private penSeen = false;
  private writer: Down | null = null;
  /** Touches that may come to write, in the order they came down. */
  private waiting = new Map<number, Down>();
  private taps: number[] = [];

  constructor(private readonly hooks: Hooks) {}

  /** Whether a pointer that goes down may write, now or once it moves; otherwise nothing it does counts. */
  down(id: number, kind: Kind, at: Place, contactPx = 0): boolean {
    if (kind === "pen") this.penNear();
    const writerThen = this.writer?.travel ?? 0;
    const one = { id, kind, since: at.t, last: at, travel: 0, writerThen };
    if (kind !== "touch") {
      if (!this.writer) this.write(one);
      return this.writer === one;
    }
    const isFirm = this.writer && (this.writer.kind !== "touch" || this.writer.travel >= FIRM_MM);
    if (this.penSeen || isFirm || contactPx > PALM_PX) return false;
    this.waiting.set(id, one);
    return true;
  }

  /** A pen is over the glass: no touch writes from now on, and what a hand has left by resting is no writing. */
  penNear() {
    if (this.writer?.kind === "touch") this.dropWriter();
    this.rest();
    if (!this.penSeen) for (const id of this.taps) this.hooks.takeBack(id);
    this.penSeen = true;
  }

  move(id: number, at: Place) {
    const one = this.writer?.id === id ? this.writer : this.waiting.get(id);
    if (!one) return;
    one.travel += Math.hypot(at.x - one.last.x, at.y - one.last.y);
    one.last = at;
    if (one !== this.writer && one.travel >= WRITES_MM && this.isLivelier(one)) {
      if (this.writer) this.dropWriter();
      this.waiting.delete(id);
      this.rest();
      this.write(one);
    }
  }

  up(id: number, t: number) {
    const one = this.waiting.get(id);
    this.waiting.delete(id);
    if (one && !this.writer && t - one.since < TAP_MS) {
      this.taps.push(id);
      this.write(one);
    } else if (one) this.hooks.takeBack(id);
    if (this.writer?.id !== id) return;
    this.writer = null;
    this.hooks.end(id);
  }

  /** The system takes a pointer for no writing; what had plainly been written stays. */
  cancel(id: number) {
    if (this.waiting.delete(id)) this.hooks.takeBack(id);
    else this.up(id, 0);
  }

  private isLivelier = (one: Down) =>
    !this.writer || one.travel > LIVELIER * (this.writer.travel - one.writerThen);

  private write(one: Down) {
    this.writer = one;
    this.hooks.begin(one.id);
  }

  private dropWriter() {
    if (this.writer) this.hooks.takeBack(this.writer.id);
    this.writer = null;
  }

  /** All touches that do not write have rested: they never will. */
  private rest() {
    for (const id of this.waiting.keys()) this.hooks.takeBack(id);
    this.waiting.clear();
  }
}

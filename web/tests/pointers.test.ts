import { expect, test } from "vitest";
import { type Kind, Pointers } from "@/ink/pointers";

/** A sheet on which every pointer is followed; what is left on it at the end are the ids that wrote. */
function sheet() {
  const ink: number[] = [];
  const hooks = {
    begin: (id: number) => void ink.push(id),
    takeBack: (id: number) => {
      if (ink.includes(id)) ink.splice(ink.indexOf(id), 1);
    },
    end: () => {},
  };
  const pointers = new Pointers(hooks);
  const at = new Map<number, { x: number; y: number }>();
  let now = 0;
  const place = (id: number) => ({ x: 0, y: 0, ...at.get(id), t: now });
  return {
    ink,
    wait: (ms: number) => {
      now += ms;
    },
    near: () => pointers.penNear(),
    down: (id: number, kind: Kind, contactPx = 20) => {
      now += 8;
      return pointers.down(id, kind, place(id), contactPx);
    },
    /** Go on by so many millimetres, half a millimetre at a time. */
    go: (id: number, mm: number) => {
      for (let gone = 0; gone < mm; gone += 0.5) {
        now += 8;
        at.set(id, { x: (at.get(id)?.x ?? 0) + 0.5, y: 0 });
        pointers.move(id, place(id));
      }
    },
    up: (id: number) => {
      now += 8;
      pointers.up(id, now);
    },
    cancel: (id: number) => pointers.cancel(id),
  };
}

const PALM = 1;
const HAND = 2;

test.each(["pen", "touch"] as const)(
  "a palm that rests before the %s comes neither writes nor hinders",
  (kind) => {
    const { down, go, up, wait, ink } = sheet();
    down(PALM, "touch");
    wait(900);
    expect(down(HAND, kind)).toBe(true);
    go(HAND, 20);
    up(HAND);
    go(PALM, 5);
    up(PALM);
    expect(ink).toEqual([HAND]);
  },
);

test.each(["pen", "touch"] as const)("a palm that comes down while the %s writes changes nothing", (kind) => {
  const { down, go, up, ink } = sheet();
  down(HAND, kind);
  go(HAND, 10);
  down(PALM, "touch");
  go(HAND, 10);
  go(PALM, 4);
  up(HAND);
  up(PALM);
  expect(ink).toEqual([HAND]);
});

test("what a sliding palm had begun is taken back when the pen comes, or a finger that is livelier", () => {
  for (const kind of ["pen", "touch"] as const) {
    const { down, go, up, ink } = sheet();
    down(PALM, "touch");
    go(PALM, 3);
    expect(ink).toEqual([PALM]);
    down(HAND, kind);
    go(PALM, 0.5);
    go(HAND, 6);
    go(PALM, 1);
    up(PALM);
    up(HAND);
    expect(ink).toEqual([HAND]);
  }
});

test("a finger that has written stays the writer while it pauses and the palm slides", () => {
  const { down, go, up, ink } = sheet();
  down(HAND, "touch");
  go(HAND, 12);
  down(PALM, "touch");
  go(PALM, 30);
  go(HAND, 2);
  up(HAND);
  up(PALM);
  expect(ink).toEqual([HAND]);
});

test("a finger's tap is a dot, also beside a hand that rests; a long press is none", () => {
  const { down, up, wait, ink } = sheet();
  down(PALM, "touch");
  wait(2000);
  down(HAND, "touch");
  wait(90);
  up(HAND);
  down(3, "touch");
  wait(900);
  up(3);
  up(PALM);
  expect(ink).toEqual([HAND]);
});

test("the dot a palm left behind goes when a pen comes near, and no touch writes after that", () => {
  const { down, up, go, near, ink } = sheet();
  down(PALM, "touch");
  up(PALM);
  expect(ink).toEqual([PALM]);
  near();
  expect(ink).toEqual([]);
  expect(down(3, "touch")).toBe(false);
  go(3, 20);
  down(HAND, "pen");
  go(HAND, 5);
  up(HAND);
  near();
  expect(ink).toEqual([HAND]);
});

test("a dot made with the pen is a dot", () => {
  const { down, up, wait, ink } = sheet();
  down(HAND, "pen");
  wait(1500);
  up(HAND);
  expect(ink).toEqual([HAND]);
});

test("what the system calls off was no writing, unless it plainly was", () => {
  const { down, go, cancel, ink } = sheet();
  down(PALM, "touch");
  go(PALM, 1);
  cancel(PALM);
  expect(ink).toEqual([]);
  down(HAND, "touch");
  go(HAND, 9);
  cancel(HAND);
  expect(ink).toEqual([HAND]);
});

test("what is wider than a finger is a palm", () => {
  const { down, go, ink } = sheet();
  expect(down(PALM, "touch", 110)).toBe(false);
  go(PALM, 20);
  expect(ink).toEqual([]);
});

test("two fingers never write at once", () => {
  const { down, go, up, ink } = sheet();
  down(1, "touch");
  down(2, "touch");
  go(2, 4);
  go(1, 4);
  up(1);
  up(2);
  expect(ink).toEqual([2]);
});

import { expect, test } from "vitest";
import { between, tapped } from "@/screens/words/cut";

const SHELL = { units: ["sh", "e", "ll"], places: [[0, 1], [2], [3, 4]] };
const LAKES = { units: ["l", "a_e", "k", "s"], places: [[0], [1, 3], [2], [4]] };

test("letters of one sound are parted, letters of two are put together", () => {
  expect(tapped(SHELL.units, SHELL.places, 0)).toEqual(["s", "h", "e", "ll"]);
  expect(tapped(SHELL.units, SHELL.places, 1)).toEqual(["she", "ll"]);
  expect(tapped(SHELL.units, SHELL.places, 2)).toEqual(["sh", "ell"]);
  expect(tapped(SHELL.units, SHELL.places, 3)).toEqual(["sh", "e", "l", "l"]);
});

test("what is put together and parted again is as it was", () => {
  const once = tapped(["d", "o", "g"], [[0], [1], [2]], 0);
  expect(once).toEqual(["do", "g"]);
  expect(tapped(once, [[0, 1], [2]], 0)).toEqual(["d", "o", "g"]);
});

test("a sound that stands around another is left alone by taps", () => {
  expect([0, 1, 2, 3].map((i) => between(LAKES.units, LAKES.places, i))).toEqual([
    "split",
    "split",
    "split",
    "split",
  ]);
  expect([0, 1, 2, 3].map((i) => between(SHELL.units, SHELL.places, i))).toEqual([
    "one",
    "two",
    "two",
    "one",
  ]);
});

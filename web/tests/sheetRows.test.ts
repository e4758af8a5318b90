import { expect, test } from "vitest";
import { FADING, HELPS, moved, readGoes, textsOf, USUAL, writeGoes } from "@/screens/sheets/rows";

test("a pattern read as counts is written as it was", () => {
  for (const pattern of [
    USUAL,
    "model ring alone*",
    "alone alone",
    "trace*",
    "model model trace finish ring alone*",
  ]) {
    const goes = readGoes(pattern);
    expect(goes && writeGoes(goes)).toBe(pattern);
  }
});

test("a pattern of several rows, or in another order, is not told in counts", () => {
  expect(readGoes(FADING)).toBeNull();
  expect(readGoes("alone model")).toBeNull();
});

test("a row that would hold nothing is written alone", () => {
  const none = { counts: Object.fromEntries(HELPS.map((help) => [help, 0])), fill: null };
  expect(writeGoes(none as Parameters<typeof writeGoes>[0])).toBe("alone*");
});

test("words are parted by spaces and a line is one text", () => {
  expect(textsOf("  hen   men ", false)).toEqual(["hen", "men"]);
  expect(textsOf("  a hen   on it ", true)).toEqual(["a hen on it"]);
  expect(textsOf("   ", true)).toEqual([]);
});

test("moving a row keeps every row once", () => {
  for (let from = 0; from < 4; from += 1) {
    for (let to = 0; to < 4; to += 1) {
      const rows = moved(["a", "b", "c", "d"], from, to);
      expect([...rows].sort()).toEqual(["a", "b", "c", "d"]);
      expect(rows[to]).toBe("abcd"[from]);
    }
  }
});

import { expect, test } from "vitest";
import {
  AXIS_WORDS,
  acrossMark,
  at,
  type Doc,
  FACES,
  FRAME,
  freshKey,
  hasWidth,
  leftOut,
  nextOrder,
  notesOf,
  ordered,
  originalOf,
  pointer,
  sectionOf,
  within,
} from "./document";

test("pointers escape what JSON Pointer needs escaped, and find their way back", () => {
  const data = { "a/b": { "c~d": 3 } };
  expect(pointer("a/b", "c~d")).toBe("/a~1b/c~0d");
  expect(at(data, pointer("a/b", "c~d"))).toBe(3);
  expect(at(data, "/a/b")).toBeUndefined();
});

test("fresh keys are readable, allowed, and not taken", () => {
  expect(freshKey({}, "hand hold!")).toBe("handhold");
  expect(freshKey({ hole: 1, hole_2: 1 }, "hole")).toBe("hole_3");
  expect(freshKey({}, "×")).toBe("k");
});

test("records come in their order", () => {
  const records = { b: { order: 1 }, a: { order: 1 }, c: { order: 0 } };
  expect(ordered(records).map(([k]) => k)).toEqual(["c", "a", "b"]);
  expect([nextOrder(records), nextOrder({})]).toEqual([2, 0]);
});

test("a pointer leads nowhere through what is no record", () => {
  expect(at({ a: null }, "/a/b")).toBeUndefined();
  expect(at({ a: "text" }, "/a/length")).toBeUndefined();
  expect(at({ a: [5, 6] }, "/a/1")).toBe(6);
  expect(at({ a: 1 }, "")).toEqual({ a: 1 });
  expect(pointer()).toBe("");
  expect(pointer("a~/~/b")).toBe("/a~0~1~0~1b");
  expect(at({ "a~/~/b": 2 }, pointer("a~/~/b"))).toBe(2);
});

test("keys keep letters, digits, line and dash, and thirty of them", () => {
  expect(freshKey({}, "Side-left_2 (new)")).toBe("Side-left_2new");
  expect(freshKey({}, "a".repeat(31))).toBe("a".repeat(30));
  expect(freshKey({ k: 1 }, "")).toBe("k_2");
});

test("of one order the names decide", () => {
  const records = { b: { order: 2 }, a: { order: 2 }, d: { order: 0 }, c: { order: 5 } };
  expect(ordered(records)).toEqual([
    ["d", { order: 0 }],
    ["a", { order: 2 }],
    ["b", { order: 2 }],
    ["c", { order: 5 }],
  ]);
  expect(nextOrder(records)).toBe(6);
});

const group = (parent: string, out = false) => ({ parent, out });
const doc = {
  groups: { base: group("", true), drawer: group("base"), lone: group("gone"), one: group("two"), two: group("one") },
  parts: { a: { group: "drawer" }, b: { group: "lone" }, c: { group: "lone", out: true }, d: {}, e: { group: "one" } },
} as unknown as Doc;

test("groups are told from the inside out, however they lie in one another", () => {
  expect(within(doc, "drawer")).toEqual(["drawer", "base"]);
  expect(within(doc, "lone")).toEqual(["lone"]);
  expect(within(doc, "one")).toEqual(["one", "two"]);
  expect(within(doc, "gone")).toEqual([]);
  expect(within(doc, "")).toEqual([]);
});

test("a part is left out by itself or with any group round it", () => {
  expect(["a", "b", "c", "d", "e", "gone"].map((k) => leftOut(doc, k))).toEqual([true, false, true, false, false, false]);
});

test("planes, faces and axes are named as they lie in the room", () => {
  expect(Object.entries(FRAME).map(([plane, f]) => [plane, f.u, f.v, f.normal, f.words])).toEqual([
    ["facing_front", "x", "z", "y", "upright, facing front"],
    ["facing_side", "y", "z", "x", "upright, facing the side"],
    ["lying", "x", "y", "z", "lying"],
  ]);
  expect(FACES).toEqual({ x: ["left", "right"], y: ["front", "back"], z: ["bottom", "top"] });
  expect(AXIS_WORDS).toEqual({ x: "left to right", y: "front to back", z: "bottom to top" });
  expect(originalOf("side@m.1")).toBe("side");
});

test("notes of a row are said once, of copies as of their original; what is counted says its own", () => {
  const part = (kind: string, note: string) => ({ kind, note });
  const parts = {
    a: part("board", "oil it"),
    b: part("board", ""),
    c: part("rod", "wax"),
    s: part("item", "M3 x 12"),
    d: part("board", "oil it"),
  };
  const doc = { parts } as unknown as Doc;
  expect(notesOf(doc, ["a", "a@m.1", "d"])).toBe("oil it");
  expect(notesOf(doc, ["a", "b", "c"])).toBe("oil it; wax");
  expect([notesOf(doc, ["s"]), notesOf(doc, ["b"]), notesOf(doc, ["gone"])]).toEqual(["", "", ""]);
});

test.each([
  ["round", "⌀ ", false],
  ["square", "square ", false],
  ["rectangle", "", true],
  ["hexagon", "hexagon ", true],
] as const)("a bar that is %s is marked '%s', and it matters which way it lies: %s", (shape, mark, width) => {
  const doc = { stocks: { bar: { kind: "bar", shape }, ply: { kind: "sheet" } } } as unknown as Doc;
  expect([sectionOf(doc, "bar"), acrossMark(doc, "bar"), hasWidth(doc, "bar")]).toEqual([shape, mark, width]);
  for (const none of ["ply", "", "gone"]) {
    expect([sectionOf(doc, none), acrossMark(doc, none), hasWidth(doc, none)]).toEqual([undefined, "", false]);
  }
});

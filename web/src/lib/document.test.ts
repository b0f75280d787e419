import { expect, test } from "vitest";
import { at, freshKey, nextOrder, ordered, pointer } from "./document";

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

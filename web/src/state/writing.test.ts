// A press writes the name that entries use; what has none, or lies along another axis, says why.
import { beforeEach, expect, test } from "vitest";
import type { Doc } from "../lib/document";
import { faceNamed, nameOf, partNamed, useWriting } from "./writing";

const doc = {
  parts: { l: { kind: "board", name: "left" }, i: { kind: "item", name: "screws" } },
  copies: { m: { kind: "mirror", names: { l: "right" } }, r: { kind: "row" } },
} as unknown as Doc;
const now = () => useWriting.getState();
const entry = { axis: "x" as const, write: () => {} };

beforeEach(() => now().wait(entry));

test("originals and mirror images have names, copies have none", () => {
  expect(["l", "l@m.1", "l@r.2", "l@m.1@r.2", "gone"].map((k) => nameOf(doc, k))).toEqual(["left", "right", "", "", ""]);
  expect([partNamed(doc, "l"), partNamed(doc, "l@m.1"), partNamed(doc, "l@r.1"), partNamed(doc, "i")]).toEqual([
    "left.",
    "right.",
    "",
    "",
  ]);
});

test("a face is written where it lies along the entry's axis, a flange's wherever it lies", () => {
  expect(faceNamed(doc, "l", "right", "x")).toEqual({ name: "left.right", why: "" });
  expect(faceNamed(doc, "l", "top")).toEqual({ name: "left.top", why: "" });
  expect(faceNamed(doc, "l", "lip.inner", "z")).toEqual({ name: "left.lip.inner", why: "" });
  expect(faceNamed(doc, "l", "top", "x")).toEqual({
    name: "",
    why: "left.top lies along z; here a left or a right face is meant.",
  });
  expect(faceNamed(doc, "l@r.1", "right", "x").why).toContain("press its original");
});

test("an entry that is left waits no more, unless another one does already", () => {
  const other = { write: () => {} };
  now().wait(other);
  now().leave(entry);
  expect(now().entry).toBe(other);
  now().point({ part: "l", face: "right" });
  now().say("no");
  now().point({ part: "l", face: "right" });
  expect([now().over, now().why]).toEqual([{ part: "l", face: "right" }, "no"]);
  now().point(null);
  expect([now().over, now().why]).toEqual([null, ""]);
  now().leave(other);
  expect(now().entry).toBeNull();
});

import { expect, test } from "vitest";
import type { FeaturePullOut } from "../api/types";
import { distances, draggedBy, draggedTo } from "./dragged";

const mark = (value: number, words: string, edge = false, origin = "", text = "") => ({ value, words, edge, origin, text });
/** A hole 40 mm from the right of a board 300 mm wide, with another one at 100. */
const pull = (more: Partial<FeaturePullOut> = {}): FeaturePullOut => ({
  way: "u",
  axis: "x",
  value: 260,
  sign: -1,
  pointer: "/parts/a/features/h/u",
  origin: "right",
  base: "",
  constant: 40,
  word: "mm",
  factor: 1,
  places: 3,
  whole: true,
  marks: [
    mark(0, "left edge", true),
    mark(300, "right edge", true),
    mark(150, "in the middle", false, "centre", "0"),
    mark(100, "in line with hole 2", false, "left", "100 mm"),
  ],
  ...more,
});

test("dragged freely, its offset takes round steps, the way that it is measured", () => {
  expect(draggedBy(pull(), -17.3, 0.2, "mm")).toEqual({ value: 243, origin: "right", text: "57 mm", caught: "" });
  expect(draggedBy(pull({ sign: 1, origin: "left", constant: 260 }), -17.3, 0.2, "mm")).toMatchObject({
    value: 243,
    text: "243 mm",
  });
  expect(draggedBy(pull(), 12, 0.2, "mm").text).toBe("28 mm");
  expect(draggedBy(pull({ factor: 25.4, word: "in", places: 5, constant: 25.4, value: 274.6 }), -25.4, 0.5, "in").text).toBe(
    "2 in",
  );
});

test("it catches on the middle and on others in line, and takes their origin", () => {
  expect(draggedBy(pull(), -108, 0.5, "mm")).toEqual({ value: 150, origin: "centre", text: "0", caught: "in the middle" });
  expect(draggedBy(pull(), -162, 0.5, "mm")).toEqual({
    value: 100,
    origin: "left",
    text: "100 mm",
    caught: "in line with hole 2",
  });
  expect(draggedBy(pull(), -114.5, 0.5, "mm").caught).toBe(""); // nine pixels off
  expect(draggedBy(pull(), 39, 0.5, "mm").caught).toBe(""); // edges are no places to catch on
});

test("of an expression the constant alone changes, unless another key asks for all of it", () => {
  const own = pull({ base: "inset", constant: 0, whole: false });
  expect(draggedBy(own, -20, 0.2, "mm")).toMatchObject({ origin: "right", text: "inset + 20 mm" });
  expect(draggedBy(own, -108, 0.5, "mm")).toMatchObject({
    value: 150,
    origin: "right",
    text: "inset + 110 mm",
    caught: "in the middle",
  });
  expect(draggedBy(own, -108, 0.5, "mm", true)).toMatchObject({ origin: "centre", text: "0" });
});

test("typed, it lies just there", () => {
  expect(draggedTo(pull(), 212.75)).toEqual({ value: 212.75, origin: "right", text: "87.25 mm", caught: "" });
  expect(draggedTo(pull(), 260).text).toBe("40 mm");
});

test("it is told how far it is from both edges and from the next on either side", () => {
  const at = (value: number) => distances(pull(), value).map((d) => [d.words, d.mm]);
  expect(at(260)).toEqual([
    ["left edge", 260],
    ["right edge", 40],
    ["in line with hole 2", 160],
  ]);
  expect(at(100)).toEqual([
    ["left edge", 100],
    ["right edge", 200],
  ]);
});

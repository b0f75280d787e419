// A pulled face writes what the core would: a constant that changes, comes or vanishes, or the name that it caught on.
import { expect, test } from "vitest";
import type { PullOut } from "../api/types";
import { pulledBy, pulledTo, withConstant } from "./pulls";

const pull = (some: Partial<PullOut> = {}): PullOut => ({
  face: "right",
  axis: "x",
  value: 388,
  pointer: "/parts/p/spans/x/high",
  base: "right.left",
  constant: 0,
  word: "mm",
  factor: 1,
  places: 3,
  whole: true,
  catches: [
    { value: 400, entry: "right.right" },
    { value: 200, entry: "mid.left" },
  ],
  barred: [],
  size: "",
  follow: 0,
  unit: "mm",
  ...some,
});

test("a constant is written behind its base, and vanishes at nought", () => {
  expect([withConstant(pull(), 20), withConstant(pull(), -12.5), withConstant(pull(), 0), withConstant(pull(), 0.0001)]).toEqual([
    "right.left + 20 mm",
    "right.left - 12.5 mm",
    "right.left",
    "right.left",
  ]);
  const plain = pull({ base: "", word: "" });
  expect([withConstant(plain, 120), withConstant(plain, -5), withConstant(plain, 0)]).toEqual(["120", "-5", "0"]);
  const inch = pull({ word: '"', factor: 25.4, places: 5 });
  expect([withConstant(inch, 25.4), withConstant(inch, 12.7)]).toEqual(['right.left + 1"', 'right.left + 0.5"']);
  expect(withConstant(pull({ base: "", word: "in", factor: 25.4, places: 5 }), 100)).toBe("3.93701 in");
});

test("within eight pixels it catches, and takes the name in place of a figure or a bare name", () => {
  expect(pulledTo(pull(), 9, 0.5, "mm")).toEqual({ value: 400, text: "right.right", caught: "right.right" });
  expect(pulledTo(pull(), 7.4, 0.5, "mm")).toEqual({ value: 393, text: "right.left + 5 mm", caught: "" });
});

test("of an expression the constant alone changes, unless the other key is held", () => {
  const sum = pull({ base: "2 * width", constant: 4, whole: false });
  expect(pulledTo(sum, 12, 0.5, "mm")).toEqual({ value: 400, text: "2 * width + 16 mm", caught: "right.right" });
  expect(pulledTo(sum, 12, 0.5, "mm", true).text).toBe("right.right");
});

test("elsewhere it goes by round steps, and where it begins it catches on nothing", () => {
  const plain = pull({ base: "", constant: 388, catches: [{ value: 388, entry: "shelf.right" }] });
  expect(pulledTo(plain, -33.2, 0.9, "mm")).toEqual({ value: 355, text: "355 mm", caught: "" });
  expect(pulledTo(plain, 0.1, 0.1, "mm").text).toBe("388 mm");
  expect(pulledBy(plain, -33.2)).toEqual({ value: 354.8, text: "354.8 mm", caught: "" });
});

test("near a place that would follow it, it says why, and goes on by its constant", () => {
  const barred = [{ value: 300, why: "shelf.right would follow itself through rail.left" }];
  const near = pulledTo(pull({ barred, catches: [] }), -87, 1, "mm");
  expect(near.barred).toBe("shelf.right would follow itself through rail.left");
  expect(near.text).toMatch(/^right\.left - /);
  expect(pulledTo(pull({ barred, catches: [] }), -60, 1, "mm").barred).toBeUndefined();
  expect(pulledTo(pull({ barred }), 12, 1, "mm")).toEqual({ value: 400, text: "right.right", caught: "right.right" });
});

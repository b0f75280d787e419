import { describe, expect, it } from "vitest";
import { inside, type Point } from "./Loop";

const square: Point[] = [
  [0, 0],
  [10, 0],
  [10, 10],
  [0, 10],
];

describe("a loop on the canvas", () => {
  it("holds what lies within it and nothing beside it", () => {
    expect(inside([5, 5], square)).toBe(true);
    for (const p of [
      [-1, 5],
      [11, 5],
      [5, -1],
      [5, 11],
    ] as Point[])
      expect(inside(p, square)).toBe(false);
  });

  it("leaves out the bay of a loop that is drawn round something", () => {
    const bay: Point[] = [
      [0, 0],
      [30, 0],
      [30, 30],
      [20, 30],
      [20, 10],
      [10, 10],
      [10, 30],
      [0, 30],
    ];
    expect(inside([15, 20], bay)).toBe(false);
    expect(inside([5, 20], bay)).toBe(true);
    expect(inside([25, 20], bay)).toBe(true);
    expect(inside([15, 5], bay)).toBe(true);
  });

  it("takes what the loop runs round twice as outside, and is the same drawn either way", () => {
    expect(inside([5, 5], [...square, ...square])).toBe(false);
    expect(inside([5, 5], [...square].reverse())).toBe(true);
  });
});

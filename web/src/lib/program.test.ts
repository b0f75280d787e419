import { expect, test } from "vitest";
import { along, arcOf, clock, cutAt, headAt, heightAt, moveAt, shareAt, spanOf } from "./program";

// to (10, 0) fast, a wait, a quarter round about (10, 10) to (20, 10), on to (20, 30)
const program = {
  x: [10, 10, 20, 20],
  y: [0, 0, 10, 30],
  bulge: [0, 0, Math.tan(Math.PI / 8), 0],
  t: [1, 1.5, 3.5, 5.5],
  kind: [0, 3, 1, 1],
  cuts: [
    { operation: "outside", key: "a", copy: 0, part: "a", code: "1", first: 0, last: 4, loose: true, wide: 0.2, deep: 0, bit: 0 },
  ],
};

test("the move that runs is the first that is not over", () => {
  expect([0, 0.99, 1, 1.2, 1.5, 3.49, 3.5, 99].map((t) => moveAt(program, t))).toEqual([0, 0, 1, 1, 2, 2, 3, 3]);
});

test("the head goes along lines and arcs and stands while it waits", () => {
  expect(headAt(program, 0.5)).toEqual({ x: 5, y: 0 });
  expect(headAt(program, 1.2)).toEqual({ x: 10, y: 0 });
  const half = headAt(program, 2.5);
  expect(half.x).toBeCloseTo(10 + 10 * Math.SQRT1_2, 9);
  expect(half.y).toBeCloseTo(10 - 10 * Math.SQRT1_2, 9);
  expect(headAt(program, 4.5)).toEqual({ x: 20, y: 20 });
  expect(headAt(program, 99)).toEqual({ x: 20, y: 30 });
});

test("an arc the other way round has its centre on the other side", () => {
  const other = { ...program, bulge: [0, 0, -Math.tan(Math.PI / 8), 0] };
  const arc = arcOf(other, 2)!;
  expect([arc.x, arc.y, arc.r, arc.sweep].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([20, 0, 10, -1.570796]);
  const end = along(other, 2, 1);
  expect(end.x).toBeCloseTo(20, 9);
  expect(end.y).toBeCloseTo(10, 9);
});

test("shares keep between nothing and all, of a move that takes no time too", () => {
  expect(shareAt(program, 2, 0)).toBe(0);
  expect(shareAt(program, 2, 9)).toBe(1);
  expect(shareAt({ t: [1, 1] }, 1, 0.5)).toBe(0);
  expect(shareAt({ t: [1, 1] }, 1, 1)).toBe(1);
});

test("cuts have their time, and the way home is none", () => {
  expect(cutAt(program, 2)).toBe(0);
  expect(spanOf(program, 0)).toEqual([0, 5.5]);
  expect(cutAt({ ...program, cuts: [{ ...program.cuts[0], last: 3 }] }, 5)).toBe(-1);
});

test("times are read as on a clock", () => {
  expect([0, 59.6, 65, 3661].map(clock)).toEqual(["0:00", "1:00", "1:05", "1:01:01"]);
});

test("how high a bit is goes evenly from where a move begins to where it ends", () => {
  const moves = { t: [1, 3, 3], z: [10, -4, -4] };
  expect([0, 0.5, 1, 2, 3].map((t) => heightAt(moves, t))).toEqual([0, 5, 10, 3, -4]);
});

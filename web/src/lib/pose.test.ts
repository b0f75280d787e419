// Poses: a turn and a slide against figures by hand, chains, tracks, and the nearest place to a pointer.
import { expect, test } from "vitest";
import type { MoveOut, MovesOut, TravelOut } from "../api/types";
import { about, back, chainOf, gone, moved, nearestTo, posesOf, REST, rangeOf, saidOf, times } from "./pose";

const move = (key: string, more: Partial<MoveOut>): MoveOut => ({
  key,
  kind: "turns",
  thing: key,
  on: "",
  way: [0, 0, 1],
  at: [0, 0, 0],
  pitch: 0,
  name: key,
  words: key,
  parts: [key],
  carrier: "base",
  group: [key],
  said: "",
  entries: {},
  follows: "",
  ratio: "",
  now: 0,
  ...more,
});
const stop = (by: number, why: "strikes" | "limit" | "out" | "round" | "loop") => ({ by, why, parts: [], at: null, words: "" });
const travel = (low: ReturnType<typeof stop>, high: ReturnType<typeof stop>, track: TravelOut["track"] = []): TravelOut => ({
  low,
  high,
  words: "so_far",
  play: "",
  track,
});
const moves: MovesOut = {
  things: [
    { key: "base", pieces: ["base"], parts: ["base"] },
    { key: "arm", pieces: ["arm", "arm~set:x:0"], parts: ["arm"] },
    { key: "hand", pieces: ["hand"], parts: ["hand"] },
  ],
  still: ["base"],
  chosen: false,
  moves: [
    move("turn", { thing: "arm", at: [10, 0, 0] }),
    move("slide", { thing: "hand", kind: "slides", way: [1, 0, 0], on: "turn", carrier: "arm" }),
  ],
  loose: [],
  positions: [],
};
const near = (a: number[], b: number[]) => {
  for (const [i, x] of a.entries()) expect(x).toBeCloseTo(b[i], 9);
};

test("a quarter turn about a line takes what lies beside it round", () => {
  near(moved(about(moves.moves[0], Math.PI / 2), [11, 0, 5]), [10, 1, 5]);
  near(moved(about(move("x", { way: [1, 0, 0] }), Math.PI / 2), [7, 1, 0]), [7, 0, 1]);
  near(moved(about(move("y", { way: [0, 1, 0] }), Math.PI / 2), [1, 7, 0]), [0, 7, -1]);
  near(moved(about(move("s", { pitch: 2 }), Math.PI), [0, 0, 0]), [0, 0, 2 * Math.PI]);
});

test("a slide goes along its way, and a pose can be undone", () => {
  near(moved(about(moves.moves[1], 30), [1, 2, 3]), [31, 2, 3]);
  const pose = times(about(moves.moves[0], 0.7), about(moves.moves[1], 12));
  near(back(pose, moved(pose, [3, 4, 5])), [3, 4, 5]);
  expect(times(REST, REST)).toEqual(REST);
});

test("what is carried goes where its carrier goes, and its own way from there", () => {
  expect(chainOf(moves, "hand").map((m) => m.key)).toEqual(["turn", "slide"]);
  expect(chainOf(moves, "base")).toEqual([]);
  const poses = posesOf(moves, { turn: Math.PI / 2, slide: 5 });
  expect([...poses.keys()]).toEqual(["arm", "arm~set:x:0", "hand"]);
  near(moved(poses.get("hand")!, [11, 0, 0]), [10, 6, 0]);
  near(moved(poses.get("arm")!, [11, 0, 0]), [10, 1, 0]);
  expect(posesOf(moves, { turn: 0, slide: 0 }).size).toBe(0);
});

test("what goes along follows its track, straight between its knots and not beyond them", () => {
  const track = [
    { by: 0, at: { a: 0, b: 0 } },
    { by: 1, at: { a: 1, b: 10 } },
    { by: 2, at: { a: 2, b: 12 } },
  ];
  const own = travel(stop(0, "limit"), stop(2, "limit"), track);
  expect(gone({ c: 7 }, "a", 0.5, own)).toEqual({ a: 0.5, b: 5, c: 7 });
  expect(gone({}, "a", 1.5, own)).toEqual({ a: 1.5, b: 11 });
  expect(gone({}, "a", 9, own)).toEqual({ a: 9, b: 12 });
  expect(gone({ b: 3 }, "a", 1, undefined)).toEqual({ a: 1, b: 3 });
});

test("the way goes from stop to stop, a whole turn where there is none, and not out of sight", () => {
  expect(rangeOf(undefined)).toEqual([0, 0]);
  expect(rangeOf(travel(stop(-1, "strikes"), stop(2, "limit")))).toEqual([-1, 2]);
  expect(rangeOf(travel(stop(-6.28, "round"), stop(6.28, "round")))).toEqual([-Math.PI, Math.PI]);
  expect(rangeOf(travel(stop(-900, "out"), stop(3, "strikes")))).toEqual([-600, 3]);
  expect(saidOf(travel(stop(0, "limit"), stop(1, "limit")))).toBe("so far");
  expect(saidOf(undefined)).toBe("…");
});

test("the nearest place to where a point is wanted is found within the way, and it stays where nothing is nearer", () => {
  expect(nearestTo(-2, 2, 0, (by) => Math.abs(by - 0.7))).toBeCloseTo(0.7, 3);
  expect(nearestTo(-2, 2, 0, (by) => Math.abs(by - 5))).toBeCloseTo(2, 3);
  expect(nearestTo(-1, 1, 0.25, () => 4)).toBeCloseTo(0.25, 1);
});

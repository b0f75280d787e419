import { expect, test } from "vitest";
import type { DrawingOut } from "../api/types";
import { caughtAt, leavesAt, lettersOf, nearestOn, offered, orderFor, seenOf, thingsAt } from "./outline";
import { mmPerPixel, sightOf, toPlane, toScreen } from "./plane";

const point = (key: string, x: number, y: number) => ({ key, words: key, at: [x, y], state: "free" as const, way: null });
const line = (key: string, a: string, b: string, path: number[][]) => ({
  key,
  kind: "line" as const,
  words: key,
  name: "",
  helping: false,
  points: [a, b],
  path,
  loose: false,
});

const D = {
  size: [120, 80],
  points: [point("p1", 0, 0), point("p2", 120, 0), point("p3", 120, 80)],
  curves: [
    line("l1", "p1", "p2", [
      [0, 0],
      [120, 0],
    ]),
    line("l2", "p2", "p3", [
      [120, 0],
      [120, 80],
    ]),
  ],
  references: [
    {
      key: "left",
      kind: "line",
      words: "left",
      entry: "",
      path: [
        [0, -5],
        [0, 85],
      ],
    },
  ],
  candidates: [
    {
      id: "x:wall.left",
      kind: "line",
      words: "wall.left",
      path: [
        [40, -5],
        [40, 85],
      ],
    },
    {
      id: "x:other.left",
      kind: "line",
      words: "other.left",
      path: [
        [40, -5],
        [40, 85],
      ],
    },
    {
      id: "x:far.left",
      kind: "line",
      words: "far.left",
      path: [
        [900, -5],
        [900, 85],
      ],
    },
    {
      id: "x:plate.left",
      kind: "line",
      words: "left",
      path: [
        [0, -5],
        [0, 85],
      ],
    },
  ],
  relations: [],
  kinds: [],
} as unknown as DrawingOut;

test("a place on the screen is the place on the plane that it shows", () => {
  // a plane that stands askew before a camera with perspective, whose matrix is by columns
  const frame = [
    [0.8, -0.6, 0, 30],
    [0.6, 0.8, 0, -20],
    [0, 0, 1, 5],
  ];
  const camera = [1.7, 0.1, 0.02, 0.02, -0.2, 2.1, 0.01, 0.01, 0.05, 0.3, -1, -1, 4, -7, 300, 310];
  const sight = sightOf(frame, 3, camera, [1000, 700])!;
  for (const p of [
    [0, 0],
    [120, 80],
    [-30, 55.5],
  ]) {
    const [x, y, z] = [0, 1, 2].map((r) => frame[r][0] * p[0] + frame[r][1] * p[1] + frame[r][2] * 3 + frame[r][3]);
    const clip = [0, 1, 2, 3].map((r) => camera[r] * x + camera[4 + r] * y + camera[8 + r] * z + camera[12 + r]);
    const at = toScreen(sight, p);
    expect(at[0]).toBeCloseTo(((clip[0] / clip[3] + 1) / 2) * 1000, 6);
    expect(at[1]).toBeCloseTo(((1 - clip[1] / clip[3]) / 2) * 700, 6);
    const back = toPlane(sight, at);
    expect(back[0]).toBeCloseTo(p[0], 6);
    expect(back[1]).toBeCloseTo(p[1], 6);
    const mm = mmPerPixel(sight, p);
    const beside = toPlane(sight, [at[0] + 1, at[1]]);
    expect(Math.hypot(beside[0] - p[0], beside[1] - p[1])).toBeCloseTo(mm, 9);
  }
  expect(sightOf(frame, 3, new Array(16).fill(0), [10, 10])).toBeNull();
});

test("points are caught before lines, lines before what may be referred to; each of those once", () => {
  expect(thingsAt(D, [1, 1], 3).map((t) => t.key)).toEqual(["p1", "l1", "left"]);
  expect(thingsAt(D, [41, 30], 3).map((t) => t.key)).toEqual(["x:wall.left"]);
  expect(offered(D).map((c) => c.id)).toEqual(["x:wall.left"]);
  expect(nearestOn([[3, 4]], [0, 0])).toEqual({ at: [3, 4], off: 5 });
});

test("a press is on what is near, at a round place along it, else at a round place", () => {
  expect(caughtAt(D, [1, 0.5], 3, 1, null, null)).toMatchObject({ at: [0, 0], on: "p1" });
  expect(caughtAt(D, [60.4, 0.8], 3, 1, null, null)).toMatchObject({ at: [60, 0], on: "l1.middle" });
  expect(caughtAt(D, [30.4, 0.8], 3, 1, null, null)).toMatchObject({ at: [30, 0], on: "l1" });
  expect(caughtAt(D, [41, 29.6], 3, 1, null, null)).toMatchObject({ at: [40, 30], on: "x:wall.left" });
  expect(caughtAt(D, [70.3, 41.8], 3, 1, null, null)).toEqual({ at: [70, 42], on: "", words: "", seen: [] });
});

test("what is seen of a line in hand: level, upright, smooth, square; it ends in line with that", () => {
  expect(seenOf([0, 0], [50, 1], null)).toEqual(["level"]);
  expect(seenOf([0, 0], [-1, -50], null)).toEqual(["upright"]);
  expect(seenOf([0, 0], [50, 30], Math.atan2(30, 50))).toEqual(["smooth"]);
  expect(seenOf([0, 0], [-30, 50], Math.atan2(30, 50))).toEqual(["square"]);
  expect(seenOf([0, 0], [50, 30], null)).toEqual([]);
  expect(caughtAt(D, [80.4, 30.6], 3, 1, [20, 30], null)).toMatchObject({ at: [80, 30], seen: ["level"] });
  // on a line that it crosses, just there
  expect(caughtAt(D, [40.8, 30.6], 3, 1, [20, 30], null)).toMatchObject({ at: [40, 30], on: "x:wall.left", seen: ["level"] });
  expect(leavesAt(D, "p3")).toBeCloseTo(Math.PI / 2);
  expect(leavesAt(D, "p1")).toBeCloseTo(Math.PI);
});

test("relations take things in the order in which they fit", () => {
  expect(lettersOf(D, ["p1", "l1", "left", "x:wall.left"])).toBe("plll");
  expect(orderFor(D, ["l1", "p3"], ["pl", "pc"])).toEqual(["p3", "l1"]);
  expect(orderFor(D, ["l1", "l2", "left"], ["ll*"])).toEqual(["l1", "l2", "left"]);
  expect(orderFor(D, ["p1", "l1"], ["ll*"])).toBeNull();
  expect(orderFor(D, ["gone"], ["p"])).toBeNull();
});

test("one of the lines that lie on one another is offered, and each that slopes", () => {
  const may = (id: string, path: number[][]) => ({ id, kind: "line", words: id, path });
  const candidates = [
    may("level", [
      [0, 10],
      [100, 10],
    ]),
    may("level again", [
      [20, 10],
      [40, 10],
    ]),
    may("up", [
      [0, 10],
      [50, 40],
    ]),
    may("down", [
      [0, 40],
      [50, 10],
    ]),
    may("upright", [
      [30, 0],
      [30, 60],
    ]),
  ];
  const d = { size: [100, 60], references: [], candidates } as unknown as DrawingOut;
  expect(offered(d).map((c) => c.id)).toEqual(["level", "up", "down", "upright"]);
});

test("the nearest place on a path is on no way over which the pen was lifted", () => {
  const path = [[0, 0], [10, 0], [], [10, 50], [0, 50]];
  expect(nearestOn(path, [12, 24])).toEqual({ at: [10, 0], off: Math.hypot(2, 24) });
});

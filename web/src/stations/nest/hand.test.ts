import { describe, expect, it } from "vitest";
import type { LayoutOut } from "../../api/types";
import type { Doc } from "../../lib/document";
import { arrange, arrangement, moved, nearest, nextTurn, type Piece } from "./hand";

const SQUARE: Piece = [
  [
    [0, 0],
    [100, 0],
    [100, 60],
    [0, 60],
  ],
];
const HOLED: Piece = [
  ...SQUARE,
  [
    [40, 20],
    [60, 20],
    [60, 40],
    [40, 40],
  ],
];

describe("nearest place", () => {
  it("is where the hand is, inside", () => expect(nearest([SQUARE], [30, 30], 5)).toEqual([30, 30]));
  it("slides along an edge outside", () => expect(nearest([SQUARE], [30, 90], 5)).toEqual([30, 60]));
  it("keeps out of holes", () => expect(nearest([HOLED], [50, 38], 1)).toEqual([50, 40]));
  it("snaps into a corner", () => expect(nearest([SQUARE], [97, 57], 5)).toEqual([100, 60]));
  it("is nowhere without room", () => expect(nearest([], [1, 1], 5)).toBeNull());
});

const layout = {
  flats: { a: "f" },
  sheets: [
    {
      size: "half",
      cut: false,
      parts: [
        { part: "a", number: 0, x: 1, y: 2, angle: 90, mirrored: false, locked: false },
        { part: "a", number: 1, x: 50, y: 2, angle: 0, mirrored: false, locked: true },
      ],
    },
  ],
} as unknown as LayoutOut;

describe("arrangements", () => {
  it("hold every piece with its lock", () => {
    const a = arrangement(layout);
    expect(a.sheets.s1.placed["a#1"]).toMatchObject({ x: 50, locked: true });
  });
  it("are written whole once, then piece by piece", () => {
    const doc = { nest: {} } as unknown as Doc;
    const first = arrange(doc, "ply", layout, (a) => {
      a.sheets.s1.placed["a#0"].x = 9;
    });
    expect(first).toHaveLength(1);
    expect(first[0]).toMatchObject({ path: "/nest/arranged/ply" });
    const by = { nest: { arranged: { ply: arrangement(layout) } } } as unknown as Doc;
    const second = arrange(by, "ply", layout, (a) => {
      a.sheets.s1.placed["a#0"].x = 9;
    });
    expect(second).toEqual([
      { op: "add", path: "/nest/arranged/ply/sheets/s1/placed/a#0", value: expect.objectContaining({ x: 9 }) },
    ]);
  });
});

it("turns go round", () => {
  expect(nextTurn([0, 180, 90, 270], 90)).toBe(180);
  expect(nextTurn([0, 180], 180)).toBe(0);
});

it("moves a drawn path", () => {
  const at = { part: "a", number: 0, x: 3, y: 4, angle: 0, mirrored: false };
  expect(moved(at, { ...at, x: 10, y: 20 })).toBe("translate(10 -20) rotate(0) rotate(0) translate(-3 4)");
});

import { describe, expect, it } from "vitest";
import { type Box, overlap, placeLabels } from "./labels";

const box = (x: number, y: number, turn = 0): Box => ({ x, y, halfWidth: 10, halfHeight: 2, turn });
const none = (boxes: Box[]) => boxes.every((a, i) => boxes.slice(i + 1).every((b) => !overlap(a, b)));

describe("labels on a flat", () => {
  it("know when turned boxes meet", () => {
    expect(overlap(box(0, 0), box(19, 3.9))).toBe(true);
    expect(overlap(box(0, 0), box(19, 4.1))).toBe(false);
    expect(overlap(box(0, 0), box(11, 0, 90))).toBe(true);
    expect(overlap(box(0, 0), box(12.1, 0, 90))).toBe(false);
    expect(overlap(box(0, 0), box(9, 11, 45))).toBe(false);
  });

  it("step aside where bends lie close together, and around holes", () => {
    const near = [0, 6, 12].map((y, i) => ({
      key: `${i}`,
      line: [0, y, 370, y] as [number, number, number, number],
      step: `${i}`,
      text: "90° r 1.5",
    }));
    const holes = [30, 185, 340].map((x) => ({ key: `h${x}`, places: [[x, 18] as [number, number]], radius: 2, text: "⌀ 4.5" }));
    const found = placeLabels(near, holes, 10);
    expect(none([...found.bends, ...found.holes])).toBe(true);
    for (const b of found.bends) {
      expect(b.x - b.halfWidth).toBeGreaterThanOrEqual(0);
      expect(b.x + b.halfWidth).toBeLessThanOrEqual(370 + 1e-9);
    }
  });

  it("let a group of holes share one, at whichever of them has room", () => {
    const wall = { x: 0, y: 0, halfWidth: 40, halfHeight: 40, turn: 0 };
    const group = {
      key: "g",
      places: [
        [0, 0],
        [100, 0],
      ] as [number, number][],
      radius: 2,
      text: "2 × ⌀ 4",
    };
    const [label] = placeLabels([], [group], 10, [wall]).holes;
    expect(Math.abs(label.x - 100)).toBeLessThan(60);
    expect(overlap(label, wall)).toBe(false);
  });

  it("give a bend that is shorter than its words its number alone, read from below or from the right", () => {
    const [label] = placeLabels([{ key: "a", line: [0, 20, 0, 0], step: "3", text: "90° r 1.5" }], [], 10).bends;
    expect([label.step, label.text]).toEqual(["3", ""]);
    expect(label.turn).toBe(90);
  });

  it("stand at the end of a bend's line with the ring outermost, whichever way the line runs", () => {
    const at = (line: [number, number, number, number]) =>
      placeLabels([{ key: "a", line, step: "1", text: "90°" }], [], 10).bends[0];
    const lines: [number, number, number, number][] = [
      [0, 0, 300, 0],
      [300, 0, 0, 0],
      [0, 0, 0, 300],
      [0, 300, 0, 0],
      [0, 0, 200, 200],
      [200, 200, 0, 0],
    ];
    for (const line of lines) {
      const label = at(line);
      const turn = (label.turn * Math.PI) / 180;
      const ring = [
        label.x + label.ring * label.halfWidth * Math.cos(turn),
        label.y + label.ring * label.halfWidth * Math.sin(turn),
      ];
      expect(Math.hypot(ring[0] - line[0], ring[1] - line[1])).toBeLessThan(0.01);
    }
  });
});

import { describe, expect, test } from "vitest";
import type { Doc } from "../lib/document";
import { partsOf, usesOf, usesSaid } from "./uses";

const entry = (text: string) => ({ text, unit: "mm" as const });
const doc = {
  sizes: {
    w: { name: "width", order: 0, entry: entry("400") },
    h: { name: "half_width", order: 1, entry: entry("width / 2") },
  },
  parts: {
    a: {
      kind: "board",
      plane: "lying",
      name: "front",
      order: 0,
      spans: { x: { low: entry("0"), high: entry("width") } },
      features: { f: { kind: "hole", name: "", u: { origin: "left", offset: entry("width/3") } } },
    },
    b: {
      kind: "board",
      plane: "lying",
      name: "back",
      order: 1,
      spans: { x: { low: entry("front.width_of"), high: entry("half_width") } },
    },
    c: {
      kind: "folded",
      plane: "lying",
      name: "tray",
      order: 2,
      spans: {},
      folding: { flanges: { l: { name: "lip", length: entry("width-3") } } },
    },
  },
  joints: { j: { a: "a", b: "b@row.1", order: 0, count: entry("width") } },
  bores: { r: { name: "rod", order: 0, diameter: entry("width"), parts: { a: {}, b: {} } } },
  groups: {},
  frames: { s: { name: "stand", order: 0, points: { p: { order: 0, at: { x: entry("height") } } }, lines: {} } },
  copies: { m: { name: "row", order: 0, spacing: entry("2*width") } },
  clearances: {},
} as unknown as Doc;

describe("what reads a size", () => {
  test("a frame's points, and the members on its lines that follow them", () => {
    const parts = { ...doc.parts, t: { kind: "member", name: "tube", frame: "s", order: 3 } };
    const uses = usesOf({ ...doc, parts } as unknown as Doc, "height");
    expect(uses).toEqual([{ words: "stand", selection: { kind: "frame", key: "s" } }]);
    expect(partsOf(uses, { ...doc, parts } as unknown as Doc)).toEqual(["t"]);
  });
  test("each record once, the features and flanges of a part by themselves, in the order of kinds", () => {
    expect(usesOf(doc, "width").map((u) => u.words)).toEqual([
      "half width",
      "front",
      "front, f",
      "tray, lip",
      "front–back",
      "rod",
      "row",
    ]);
  });
  test("a name within another name is not it", () => {
    expect(usesOf(doc, "half_width").map((u) => u.words)).toEqual(["back"]);
    expect(usesOf(doc, "half")).toEqual([]);
  });
  test("each names what is selected to see it, and the parts that are lit", () => {
    const uses = usesOf(doc, "width");
    expect(uses[2].selection).toEqual({ kind: "feature", part: "a", key: "f" });
    expect(uses[3].selection).toEqual({ kind: "flange", part: "c", key: "l" });
    expect(partsOf(uses, doc)).toEqual(["a", "c", "b"]);
  });
  test("said with the first three and how many more", () => {
    expect(usesSaid(usesOf(doc, "width"))).toBe("read by half width, front, front, f and 4 more");
    expect(usesSaid(usesOf(doc, "half_width"))).toBe("read by back");
    expect(usesSaid([])).toBe("nothing reads it yet");
  });
});

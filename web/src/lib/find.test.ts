import { describe, expect, it } from "vitest";
import type { PartOut, ProblemOut } from "../api/types";
import { inside } from "../frame/Loop";
import type { Doc } from "./document";
import { finds, named } from "./find";

const part = (path: string, of: string, has: [string, number][]) => ({ path, of, stock: "ply6", has }) as unknown as PartOut;
const doc = {
  unit: "mm",
  parts: { rest_front: { name: "rest_front" }, left: { name: "left" } },
  stocks: { ply6: { name: "Birch plywood 6 mm", material: "plywood" } },
} as unknown as Doc;
const broken = [{ part: "left", other: "" }] as unknown as ProblemOut[];

describe("finding parts", () => {
  it("takes * for any run of letters and ? for one", () => {
    expect(named("rest_front", "rest*")).toBe(true);
    expect(named("rest_front", "*front")).toBe(true);
    expect(named("rest_front", "rest")).toBe(true);
    expect(named("rest_front", "rest?")).toBe(false);
    expect(named("bar.2", "bar.?")).toBe(true);
    expect(named("barx2", "bar.?")).toBe(false);
  });
  it("looks at names, stock, problems and what a part has", () => {
    const left = part("left", "left", [
      ["hole", 6],
      ["groove", 4],
    ]);
    const rest = part("rest_front", "rest_front", []);
    const ask = (p: PartOut, text: string) => finds(p, text, doc, broken);
    expect([ask(left, "problem"), ask(rest, "problems")]).toEqual([true, false]);
    expect([ask(left, "holes 6 mm"), ask(left, "hole 6.2"), ask(left, "hole"), ask(rest, "hole")]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    expect([ask(left, "0.25 in"), ask(left, "4"), ask(left, "groove 6")]).toEqual([false, true, false]);
    expect([ask(left, "birch plywood 6"), ask(rest, "ply?"), ask(rest, "steel")]).toEqual([true, true, false]);
    expect(ask(rest, "")).toBe(true);
  });
});

describe("a loop", () => {
  it("holds what lies inside it, also where it is hollow", () => {
    const ell: [number, number][] = [
      [0, 0],
      [10, 0],
      [10, 4],
      [4, 4],
      [4, 10],
      [0, 10],
    ];
    expect(inside([2, 8], ell)).toBe(true);
    expect(inside([8, 2], ell)).toBe(true);
    expect(inside([8, 8], ell)).toBe(false);
    expect(inside([-1, 2], ell)).toBe(false);
  });
});

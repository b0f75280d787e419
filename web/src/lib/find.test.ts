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

describe("what is asked", () => {
  const ask = (p: PartOut, text: string, problems: ProblemOut[] = [], unit = "mm") =>
    finds(p, text, { ...doc, unit } as Doc, problems);
  const left = part("left.2", "left", [
    ["hole", 6],
    ["groove", 4],
    ["hole", 25.4],
  ]);
  it("may be in any unit, a bare number in the design's own", () => {
    expect([ask(left, "1 in"), ask(left, '1"'), ask(left, "2.54 cm"), ask(left, "0.006 m")]).toEqual([true, true, true, true]);
    expect([ask(left, "1", [], "in"), ask(left, "1"), ask(left, "25.4")]).toEqual([true, false, true]);
    const long = part("long", "left", [["slot", 304.8]]);
    expect([ask(long, "1 ft"), ask(long, "slots 1'"), ask(long, "12 in"), ask(long, "1 in")]).toEqual([true, true, true, false]);
    expect([ask(left, "6.04"), ask(left, "6.06"), ask(left, "5.96 mm"), ask(left, "hole 6mm")]).toEqual([
      true,
      false,
      true,
      true,
    ]);
    expect([ask(left, "6 hole"), ask(left, "groove 25.4 mm"), ask(left, "grooves"), ask(left, "pocket")]).toEqual([
      ...[true, false, true, false],
    ]);
  });
  it("is taken whatever its case, with lines for spaces", () => {
    expect([named("Rest_Front", "rest front"), named("rest front", "REST_*"), named("a.b", "a?b"), named("a+b", "a+?")]).toEqual([
      ...[true, true, true, true],
    ]);
    expect([named("axb", "a.?"), named("rest_front", "ront*"), named("rest", "*est?")]).toEqual([false, false, false]);
    expect([ask(left, "  LEFT.2 "), ask(left, "left"), ask(left, "PLY6"), ask(left, "Plywood"), ask(left, "?")]).toEqual([
      ...[true, true, true, true, false],
    ]);
  });
  it("finds a part by problems that are open, as the first or the other one", () => {
    const problem = (p: object) => [{ part: "", other: "", kept: false, ...p }] as unknown as ProblemOut[];
    expect(ask(left, "problems", problem({ other: "left" }))).toBe(true);
    expect(ask(left, "problem", problem({ part: "left", kept: true }))).toBe(false);
    expect(ask(left, "problem", problem({ part: "right" }))).toBe(false);
    expect(ask(left, "problematic", problem({ part: "left" }))).toBe(false);
  });
  it("does not stumble over a part without a record or a stock", () => {
    const odd = { path: "odd", of: "gone", stock: "gone", has: [] } as unknown as PartOut;
    expect([ask(odd, "odd"), ask(odd, "steel"), ask(odd, "12 mm")]).toEqual([true, false, false]);
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

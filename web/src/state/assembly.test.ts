import { describe, expect, it } from "vitest";
import type { AssemblyOut } from "../api/types";
import { shiftAt } from "./assembly";

const steps = [
  { parts: ["b"], way: "down", start: [0, 0, 100], distance: 100 },
  { parts: ["d"], way: "to the left", start: [50, 0, 0], distance: 50 },
  { parts: ["c", "d"], way: "down", start: [0, 0, 80], distance: 80 },
];
const assembly: AssemblyOut = { first: ["a"], steps, locked: [], loose: [], drops: [], sets: [] };

describe("where a part is at a step", () => {
  it("shows what the assembly begins with in its place from the start", () => {
    expect(shiftAt(assembly, "a", 0)).toEqual([0, 0, 0]);
  });
  it("brings a part in from where it starts, and leaves it in its place", () => {
    expect(shiftAt(assembly, "b", 0)).toBeNull();
    expect(shiftAt(assembly, "b", 0.25)).toEqual([0, 0, 75]);
    expect(shiftAt(assembly, "b", 3)).toEqual([0, 0, 0]);
  });
  it("puts a group together away from its place, then moves it as one", () => {
    expect(shiftAt(assembly, "c", 1)).toBeNull();
    expect(shiftAt(assembly, "c", 1.5)).toEqual([0, 0, 80]);
    expect(shiftAt(assembly, "d", 1.5)).toEqual([25, 0, 80]);
    expect(shiftAt(assembly, "d", 2.5)).toEqual([0, 0, 40]);
  });
});

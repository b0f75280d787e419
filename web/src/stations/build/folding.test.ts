import { describe, expect, it } from "vitest";
import folds from "../../../../tests/core/fixtures/folds.json";
import { laid, type Skin, sharesOf } from "./folding";

// outward lies to the right of the bend line, here towards larger u
// a plate of 20 × 10 with a leg of 5 behind a bend of 90°, inside radius 1, 2 thick, K 0.5: the strip is π/2 · 2 wide
const width = Math.PI;
const skin: Skin = {
  flat: [0, 0, 20, 0, 20 + width, 0, 25 + width, 0],
  zone: [0, 0, -1, 1],
  edges: [0, 1, 4, 5],
  lines: [],
  thickness: 2,
  faces: [
    { key: "", owner: "" },
    { key: "f", owner: "flange:p:f" },
  ],
  bends: [{ owner: "bend:p:f", parent: 0, start: [20, 0], end: [20, 10], angle: Math.PI / 2, radius: 1, k: 0.5, gussets: [] }],
};
describe("laying a net", () => {
  it("lies flat at no share", () => {
    const at = laid(skin, [0]);
    expect([...at.slice(9, 12)]).toEqual([25 + width, 0, 0].map((x) => expect.closeTo(x, 4)));
    expect(at[12 + 11]).toBeCloseTo(2);
  });

  it("stands upright when bent, its outer face an inside radius and a thickness past the start of the bend", () => {
    const at = laid(skin, [1]);
    expect([...at.slice(9, 12)]).toEqual([23, 0, 8].map((x) => expect.closeTo(x, 4)));
    expect([...at.slice(21, 24)]).toEqual([21, 0, 8].map((x) => expect.closeTo(x, 4)));
    // the end of the strip and the start of the leg are one place
    expect([...at.slice(6, 9)]).toEqual([23, 0, 3].map((x) => expect.closeTo(x, 4)));
  });

  it("keeps lengths while it is half-way", () => {
    const at = laid(skin, [0.5]);
    expect(Math.hypot(at[9] - at[6], at[11] - at[8])).toBeCloseTo(5, 4);
  });
});

it("does bend after bend in order", () => {
  const two = { ...skin, bends: [skin.bends[0], { ...skin.bends[0], owner: "bend:p:g" }] };
  expect(sharesOf(two, { mode: "each", share: 0.75 }, ["bend:p:g", "bend:p:f"])).toEqual([0.5, 1]);
  expect(sharesOf(two, { mode: "all", share: 0.3 }, [])).toEqual([0.3, 0.3]);
});

describe("the core's own folds", () => {
  // both floors reckon where a net comes to lie: one fixture, written by the core, holds them to one another
  for (const [name, part] of Object.entries(folds))
    it(`lays "${name}" where the core lays it, at every share`, () => {
      for (const { shares, at } of part.laid) {
        const found = laid(part.skin as unknown as Skin, shares);
        expect(found.length).toBe(at.length);
        const off = at.reduce((most, x, i) => Math.max(most, Math.abs(x - found[i])), 0);
        expect(off).toBeLessThan(1e-4);
      }
    });
});

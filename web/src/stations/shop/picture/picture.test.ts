import * as THREE from "three";
import { describe, expect, it } from "vitest";
import { covers, edgeCovers, surfaceOf } from "./surfaces";
import { textured } from "./textured";
import { nameOf } from "./useStudio";

const stock = (more: object) =>
  ({ kind: "sheet", name: "", material: "", hatch: "ply", density: 0.7, tint: "#e6cfa3", ...more }) as never;

describe("what a stock looks like", () => {
  it.each([
    [stock({ name: "Birch plywood 12 mm", material: "birch plywood" }), "ply"],
    [stock({ name: "Galvanised steel 1 mm", hatch: "metal" }), "galvanised"],
    [stock({ name: "Steel 2 mm", hatch: "metal", density: 7.85 }), "steel"],
    [stock({ name: "Acrylic 3 mm", hatch: "plastic" }), "acrylic"],
    [stock({ name: "Sheet 3 mm", hatch: "plastic" }), "plastic"],
    [stock({ name: "Fibreboard 6 mm", hatch: "board" }), "board"],
    [stock({ kind: "bar", name: "Round tube", density: 7.85, hatch: undefined }), "steel"],
    [stock({ kind: "bar", name: "Beech rod 12", density: 0.72, hatch: undefined }), "hardwood"],
    [undefined, "plastic"],
  ])("%#", (of, wanted) => {
    expect(surfaceOf(of)).toBe(wanted);
  });
});

describe("a solid on its texture", () => {
  const box = new THREE.BoxGeometry(300, 200, 12).toNonIndexed();

  it("keeps every triangle, faces and edges of a sheet apart", () => {
    const made = textured(box, "ply", true, 0);
    expect(made.getAttribute("position").count).toBe(36);
    expect(made.groups.map((g) => g.count)).toEqual([12, 24]);
    const normal = made.getAttribute("normal");
    for (let i = 0; i < 12; i++) expect(Math.abs(normal.getZ(i))).toBeCloseTo(1);
    for (let i = 12; i < 36; i++) expect(Math.abs(normal.getZ(i))).toBeCloseTo(0);
  });

  it("has no edges of its own where it is no sheet", () => {
    expect(textured(box, "hardwood", false, 0).groups.map((g) => g.count)).toEqual([36, 0]);
  });

  it.each([0, 1])("lays the grain along axis %s, true to size", (along) => {
    const made = textured(box, "ply", true, along);
    const [position, uv] = [made.getAttribute("position"), made.getAttribute("uv")];
    const [long, wide] = covers("ply");
    for (let i = 0; i < 12; i++) {
      const p = [position.getX(i), position.getY(i)];
      expect(uv.getX(i)).toBeCloseTo(p[along] / long, 5);
      expect(uv.getY(i)).toBeCloseTo(p[1 - along] / wide, 5);
    }
  });

  it("lays veneers along edges, through the thickness", () => {
    const made = textured(box, "ply", true, 0);
    const [position, uv] = [made.getAttribute("position"), made.getAttribute("uv")];
    for (let i = 12; i < 36; i++) expect(uv.getY(i)).toBeCloseTo(position.getZ(i) / edgeCovers()[1], 5);
  });
});

it("names files in plain letters", () => {
  expect(nameOf("Brood box № 2")).toBe("brood-box-2");
  expect(nameOf("¡!")).toBe("design");
});

import * as THREE from "three";
import { describe, expect, it } from "vitest";
import type { PartOut } from "../../api/types";
import { sectionSegments } from "./SectionCaps";
import { placeOf, planeOf } from "./section";

const parts = [
  { low: [0, 0, 0], high: [100, 20, 40] },
  { low: [-50, 5, 0], high: [0, 300, 12] },
] as unknown as PartOut[];

/** Length of all segments together. */
function length(ends: number[]): number {
  let sum = 0;
  for (let i = 0; i < ends.length; i += 6)
    sum += Math.hypot(ends[i] - ends[i + 3], ends[i + 1] - ends[i + 4], ends[i + 2] - ends[i + 5]);
  return sum;
}

describe("the section", () => {
  it("stands at its share of the whole design", () => {
    expect(placeOf({ axis: "x", share: 0.5, flipped: false }, parts)).toBe(25);
    expect(placeOf({ axis: "y", share: 0, flipped: false }, parts)).toBe(0);
    expect(placeOf({ axis: "y", share: 1, flipped: true }, parts)).toBe(300);
    expect(planeOf(null, parts)).toBeNull();
    expect(planeOf({ axis: "x", share: 0.5, flipped: false }, [])).toBeNull();
  });

  it("keeps one side, and the other where it is turned", () => {
    for (const flipped of [false, true]) {
      const plane = planeOf({ axis: "x", share: 0.5, flipped }, parts)!;
      expect(plane.distanceToPoint(new THREE.Vector3(25, 7, -3))).toBeCloseTo(0);
      expect(Math.sign(plane.distanceToPoint(new THREE.Vector3(90, 0, 0)))).toBe(flipped ? -1 : 1);
    }
  });

  it("cuts a block along the outline of its cross-section", () => {
    const block = new THREE.BoxGeometry(10, 20, 30).toNonIndexed().getAttribute("position").array;
    const placed = new THREE.Matrix4().makeTranslation(5, 0, 0);
    const across = new THREE.Plane(new THREE.Vector3(1, 0, 0), -3);
    expect(length(sectionSegments(block, placed, across))).toBeCloseTo(2 * (20 + 30), 4);
    const slanting = new THREE.Plane(new THREE.Vector3(1, 1, 0).normalize(), -5 / Math.SQRT2);
    // through the middle at 45°: as deep as the block, and √2 times its width
    expect(length(sectionSegments(block, placed, slanting))).toBeCloseTo(2 * (30 + 10 * Math.SQRT2), 4);
    expect(sectionSegments(block, placed, new THREE.Plane(new THREE.Vector3(1, 0, 0), -30))).toEqual([]);
  });
});

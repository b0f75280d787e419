// The section's plane through what is built, and the middle that parts are pulled apart from.
import * as THREE from "three";
import type { PartOut } from "../../api/types";
import type { Section } from "../../state/view";

export function boundsOf(parts: PartOut[]): { low: number[]; high: number[] } {
  const sized = parts.filter((p) => p.low && p.high);
  return {
    low: [0, 1, 2].map((i) => Math.min(...sized.map((p) => p.low![i]))),
    high: [0, 1, 2].map((i) => Math.max(...sized.map((p) => p.high![i]))),
  };
}

export function centreOf(parts: PartOut[]): number[] {
  const { low, high } = boundsOf(parts);
  return low.map((x, i) => (x + high[i]) / 2);
}

/** Where a section stands along its axis, in mm. */
export function placeOf(section: Section, parts: PartOut[]): number {
  const { low, high } = boundsOf(parts);
  const i = "xyz".indexOf(section.axis);
  return low[i] + (high[i] - low[i]) * section.share;
}

/** The plane that clips: what lies before it (at its negative side) is taken away. */
export function planeOf(section: Section | null, parts: PartOut[]): THREE.Plane | null {
  if (!section || !parts.length) return null;
  const normal = new THREE.Vector3();
  normal.setComponent("xyz".indexOf(section.axis), section.flipped ? -1 : 1);
  return new THREE.Plane(normal, (section.flipped ? 1 : -1) * placeOf(section, parts));
}

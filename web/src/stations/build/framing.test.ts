import * as THREE from "three";
import { expect, test } from "vitest";
import { type Bounds, between, type Stand, seenWhole, standing } from "./framing";

const SIZE = { width: 770, height: 650 };
const corner = new THREE.Vector3(0.62, -1, 0.72);

function eye(stand: Stand): THREE.PerspectiveCamera {
  const camera = new THREE.PerspectiveCamera(35, SIZE.width / SIZE.height, 1, 100_000);
  camera.up.set(0, 0, 1);
  camera.position.copy(stand.position);
  camera.lookAt(stand.target);
  camera.updateMatrixWorld();
  return camera;
}

const boxes: Bounds[] = [
  { low: [0, 0, 0], high: [300, 200, 12] },
  { low: [0, 0, 0], high: [300, 200, 1500] },
  { low: [-4000, 0, 0], high: [10, 20, 30] },
  { low: [5, 5, 5], high: [9, 9, 9] },
];

test.each(boxes)("framed from any side, all of a box is in the picture", (bounds) => {
  for (const from of [corner, new THREE.Vector3(1, 0, 0.0001), new THREE.Vector3(0, -1, 0.0001), new THREE.Vector3(-1, 1, -1)])
    expect(seenWhole(bounds, eye(standing(bounds, from, 35, SIZE)))).toBe(true);
});

test("what grows out of the picture is not seen whole, nor what stands behind the eye", () => {
  const [flat, tall] = boxes;
  const camera = eye(standing(flat, corner, 35, SIZE));
  expect(seenWhole(tall, camera)).toBe(false);
  expect(seenWhole({ low: [0, 0, 0], high: [303, 200, 12] }, camera)).toBe(true); // a little more still fits
  const behind = camera.position.clone().multiplyScalar(3).toArray();
  expect(seenWhole({ low: behind, high: behind.map((x) => x + 10) }, camera)).toBe(false);
});

test("on its way the camera goes from one stand to the other and nowhere else", () => {
  const [from, to] = [boxes[0], boxes[1]].map((b) => standing(b, corner, 35, SIZE));
  expect(between(from, to, 0).position.distanceTo(from.position)).toBeLessThan(1e-9);
  expect(between(from, to, 1).target.distanceTo(to.target)).toBeLessThan(1e-9);
  let last = 0;
  for (let share = 0; share <= 1; share += 0.1) {
    const gone = between(from, to, share).position.distanceTo(from.position);
    expect(gone).toBeGreaterThanOrEqual(last);
    last = gone;
  }
});

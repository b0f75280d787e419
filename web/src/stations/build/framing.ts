// How the camera stands so that a box is seen whole: plain figures, for the view and its tests.
import * as THREE from "three";

export type Bounds = { low: number[]; high: number[] };
/** Where the camera is, and what it looks at. */
export type Stand = { position: THREE.Vector3; target: THREE.Vector3 };

/** The least that is framed, half across (mm). */
const LEAST = 60;
/** What of the picture is free of what lies over it, from the middle to each side: the tools stand above. */
const FREE = { x: 0.97, up: 0.82, down: 0.95 };

/** A little air all round. */
const AIR = 1.06;

const cornersOf = ({ low, high }: Bounds) =>
  [...Array(8).keys()].map(
    (i) => new THREE.Vector3(i & 1 ? high[0] : low[0], i & 2 ? high[1] : low[1], i & 4 ? high[2] : low[2]),
  );

/** Where the camera stands to see a box whole from a direction; `size` is the picture's in pixels, `fov` in degrees. */
export function standing(bounds: Bounds, direction: THREE.Vector3, fov: number, size: { width: number; height: number }): Stand {
  const { low, high } = bounds;
  const target = new THREE.Vector3(...[0, 1, 2].map((i) => (low[i] + high[i]) / 2));
  const toward = direction.clone().normalize();
  const right = new THREE.Vector3(0, 0, 1).cross(toward).normalize();
  const up = toward.clone().cross(right);
  const tan = Math.tan((fov * Math.PI) / 360);
  const aspect = size.width / Math.max(size.height, 1);
  // each corner asks for a distance at which it is clear of the picture's sides, and of the tools
  const asked = cornersOf(bounds).map((corner) => {
    const off = corner.sub(target);
    const [x, y] = [Math.abs(off.dot(right)), off.dot(up)];
    return off.dot(toward) + AIR * Math.max(x / (tan * aspect * FREE.x), y / (tan * FREE.up), -y / (tan * FREE.down));
  });
  const distance = Math.max(LEAST / Math.sin((fov * Math.PI) / 360), ...asked);
  return { position: target.clone().addScaledVector(toward, distance), target };
}

/** Whether all of a box is in the picture, clear of the tools. */
export function seenWhole({ low, high }: Bounds, camera: THREE.Camera): boolean {
  camera.updateMatrixWorld();
  for (let i = 0; i < 8; i++) {
    const corner = new THREE.Vector3(i & 1 ? high[0] : low[0], i & 2 ? high[1] : low[1], i & 4 ? high[2] : low[2]).project(
      camera,
    );
    if (Math.abs(corner.x) > FREE.x || corner.y > FREE.up || corner.y < -FREE.down || corner.z > 1) return false;
  }
  return true;
}

/** Half way and all others between two stands, `share` from 0 to 1: slowly off, slowly in. */
export function between(from: Stand, to: Stand, share: number): Stand {
  const s = share * share * (3 - 2 * share);
  return { position: from.position.clone().lerp(to.position, s), target: from.target.clone().lerp(to.target, s) };
}

/** The camera stands there and looks at that; how near and how far it sees follows. */
export function stand(
  eye: THREE.PerspectiveCamera,
  orbit: { target: THREE.Vector3; update: () => unknown },
  { position, target }: Stand,
): void {
  eye.position.copy(position);
  const distance = position.distanceTo(target);
  eye.near = distance / 100;
  eye.far = distance * 20;
  eye.updateProjectionMatrix();
  orbit.target.copy(target);
  orbit.update();
}

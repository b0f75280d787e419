// A solid's triangles with their places on a texture: faces along the grain, edges round the sheet; bars along their length.
import * as THREE from "three";
import { toCreasedNormals } from "three/examples/jsm/utils/BufferGeometryUtils.js";
import { covers, edgeCovers, type Surface } from "./surfaces";

/** Corners sharper than this (radians) are seen as such. */
const CREASE = 0.6;

/** `sheet` where its w is its thickness; `along` the axis of the grain, 0 to 2. Groups: 0 faces, 1 edges. */
export function textured(faces: THREE.BufferGeometry, surface: Surface, sheet: boolean, along: number): THREE.BufferGeometry {
  const creased = toCreasedNormals(faces.clone(), CREASE);
  const position = creased.getAttribute("position");
  const normal = creased.getAttribute("normal");
  const groups: number[][] = [[], []];
  const [a, b, c] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()];
  const facing: number[] = [];
  for (let t = 0; t < position.count; t += 3) {
    a.fromBufferAttribute(position, t);
    b.fromBufferAttribute(position, t + 1).sub(a);
    c.fromBufferAttribute(position, t + 2).sub(a);
    const out = b.cross(c).toArray().map(Math.abs);
    const axis = out.indexOf(Math.max(...out));
    facing.push(axis);
    groups[sheet && axis !== 2 ? 1 : 0].push(t);
  }
  const order = [...groups[0], ...groups[1]];
  const points = new Float32Array(order.length * 9);
  const normals = new Float32Array(order.length * 9);
  const uvs = new Float32Array(order.length * 6);
  const [long, wide] = covers(surface);
  const edge = edgeCovers();
  order.forEach((t, n) => {
    const axis = facing[t / 3];
    const onEdge = n >= groups[0].length;
    for (let k = 0; k < 3; k++) {
      const p = [position.getX(t + k), position.getY(t + k), position.getZ(t + k)];
      points.set(p, n * 9 + k * 3);
      normals.set([normal.getX(t + k), normal.getY(t + k), normal.getZ(t + k)], n * 9 + k * 3);
      uvs.set(
        onEdge && surface === "ply" ? [p[1 - axis] / edge[0], p[2] / edge[1]] : flat(p, axis, along, long, wide),
        n * 6 + k * 2,
      );
    }
  });
  const made = new THREE.BufferGeometry();
  made.setAttribute("position", new THREE.BufferAttribute(points, 3));
  made.setAttribute("normal", new THREE.BufferAttribute(normals, 3));
  made.setAttribute("uv", new THREE.BufferAttribute(uvs, 2));
  made.addGroup(0, groups[0].length * 3, 0);
  made.addGroup(groups[0].length * 3, groups[1].length * 3, 1);
  creased.dispose();
  return made;
}

/** Where a place lies on a texture that is laid on the side that looks along an axis. */
function flat(p: number[], axis: number, along: number, long: number, wide: number): [number, number] {
  const rest = [0, 1, 2].filter((i) => i !== axis);
  const first = rest.includes(along) ? along : rest[0];
  const second = rest.find((i) => i !== first) ?? rest[1];
  return [p[first] / long, p[second] / wide];
}

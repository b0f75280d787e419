// Three.js geometries from solids, kept by hash and disposed of when they are long unused.
import * as THREE from "three";
import type { SolidOut } from "../../api/types";
import { dartsOf, laid, type Skin } from "./folding";

/** `lines` are where bends begin and end, `darts` the stiffeners pressed into them, of a folded part. */
export type Solid = {
  faces: THREE.BufferGeometry;
  edges: THREE.BufferGeometry;
  lines: THREE.BufferGeometry | null;
  darts: THREE.BufferGeometry | null;
  owners: string[];
  firsts: number[];
};

const MOST = 600;
const kept = new Map<string, Solid>();

export function solidGeometry(key: string, data: SolidOut): Solid {
  const found = kept.get(key);
  if (found) {
    kept.delete(key);
    kept.set(key, found);
    return found;
  }
  const indexed = new THREE.BufferGeometry();
  indexed.setAttribute("position", new THREE.Float32BufferAttribute(data.positions, 3));
  indexed.setIndex(data.triangles);
  const faces = indexed.toNonIndexed();
  faces.computeVertexNormals();
  faces.computeBoundingSphere();
  indexed.dispose();
  const edges = new THREE.BufferGeometry();
  edges.setAttribute("position", new THREE.Float32BufferAttribute(data.edges, 3));
  const firsts: number[] = [];
  let n = 0;
  for (const count of data.counts) {
    firsts.push(n);
    n += count;
  }
  const lines = data.skin ? bendLines(data.skin, data.positions) : null;
  const darts = data.skin
    ? dartGeometry(
        data.skin,
        data.skin.bends.map(() => 1),
      )
    : null;
  const made = { faces, edges, lines, darts, owners: data.owners, firsts };
  kept.set(key, made);
  for (const [old, solid] of kept) {
    if (kept.size <= MOST) break;
    solid.faces.dispose();
    solid.edges.dispose();
    solid.lines?.dispose();
    solid.darts?.dispose();
    kept.delete(old);
  }
  return made;
}

/** The geometry of one of two leaves that move against one another. */
export function leafGeometry(key: string, data: SolidOut, leaf: number): Solid {
  const [triangles, ends] = data.leaf ?? [0, 0];
  const cut = <T>(all: readonly T[], at: number) => (leaf ? all.slice(at) : all.slice(0, at));
  const owned = data.owners.flatMap((o, i) => Array<string>(data.counts[i]).fill(o));
  const own = cut(owned, triangles);
  return solidGeometry(`${key}~${leaf}`, {
    ...data,
    triangles: cut(data.triangles, triangles * 3),
    edges: cut(data.edges as number[], ends * 3),
    owners: [...new Set(own)],
    counts: [...new Set(own)].map((o) => own.filter((x) => x === o).length),
    leaf: undefined,
  });
}

/** The geometry of a folded part with its bends part of the way done; whoever asks for it disposes of it. */
export function foldedGeometry(data: SolidOut, skin: Skin, shares: number[]): Solid {
  const positions = laid(skin, shares);
  const indexed = new THREE.BufferGeometry();
  indexed.setAttribute("position", new THREE.BufferAttribute(positions, 3));
  indexed.setIndex(data.triangles);
  const faces = indexed.toNonIndexed();
  faces.computeVertexNormals();
  faces.computeBoundingSphere();
  const edges = new THREE.BufferGeometry();
  const points = new Float32Array(skin.edges.length * 3);
  skin.edges.forEach((corner, i) => {
    points.set(positions.subarray(corner * 3, corner * 3 + 3), i * 3);
  });
  edges.setAttribute("position", new THREE.BufferAttribute(points, 3));
  indexed.dispose();
  const firsts: number[] = [];
  let n = 0;
  for (const count of data.counts) {
    firsts.push(n);
    n += count;
  }
  return { faces, edges, lines: bendLines(skin, positions), darts: dartGeometry(skin, shares), owners: data.owners, firsts };
}

function dartGeometry(skin: Skin, shares: number[]): THREE.BufferGeometry | null {
  const points = dartsOf(skin, shares);
  if (!points.length) return null;
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(points, 3));
  geometry.computeVertexNormals();
  return geometry;
}

/** The lines where bends begin and end, on both faces. */
function bendLines(skin: Skin, positions: ArrayLike<number>): THREE.BufferGeometry {
  const n = skin.zone.length;
  const points: number[] = [];
  for (const offset of [0, n])
    for (const corner of skin.lines) for (let k = 0; k < 3; k++) points.push(positions[(corner + offset) * 3 + k]);
  const lines = new THREE.BufferGeometry();
  lines.setAttribute("position", new THREE.Float32BufferAttribute(points, 3));
  return lines;
}

/** Which owner a triangle belongs to. */
export function ownerAt(solid: Solid, triangle: number): string {
  let low = 0;
  let high = solid.firsts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (solid.firsts[middle] <= triangle) low = middle;
    else high = middle - 1;
  }
  return solid.owners[low] ?? "";
}

/** The triangles of some owners as a geometry of their own, or null. */
export function ownedGeometry(solid: Solid, owners: string[]): THREE.BufferGeometry | null {
  const position = solid.faces.getAttribute("position");
  const total = position.count / 3;
  const points: number[] = [];
  solid.owners.forEach((name, i) => {
    if (!owners.includes(name)) return;
    const end = solid.firsts[i + 1] ?? total;
    for (let v = solid.firsts[i] * 3; v < end * 3; v++) points.push(position.getX(v), position.getY(v), position.getZ(v));
  });
  if (!points.length) return null;
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.Float32BufferAttribute(points, 3));
  geometry.computeVertexNormals();
  return geometry;
}

// From a press or a loop on the canvas to what is meant: faces, edges, centres, parts, holes.
import * as THREE from "three";
import type { PartOut, SolidOut } from "../../api/types";
import { inside, type Point } from "../../frame/Loop";
import { FACES, legOf, originalOf, type Place } from "../../lib/document";
import { id, isOf, readOwner } from "../../lib/owner";
import { flat as flatData, solid as solidData } from "../../state/resources";
import { solidGeometry } from "./solids";

/** The word of the face that a triangle's owner stands for, or undefined. */
export function faceWord(part: PartOut, owner: string): string | undefined {
  if (owner === "face_a") return part.face_a;
  if (owner === "face_b") return part.face_b;
  // a mirror image's edges carry their original's words; it is named as it stands
  return isOf(owner, "edge") ? part.words?.[readOwner(owner).key] : undefined;
}

/** The owner of the triangles of the face that a word names. */
export function faceOwner(part: PartOut, word: string): string {
  if (word.includes(".")) return id.flange(part.of, legOf(word).record);
  if (word === part.face_a) return "face_a";
  if (word === part.face_b) return "face_b";
  const own = Object.entries(part.words ?? {}).find(([, w]) => w === word);
  return own ? id.edge(own[0]) : "";
}

/** The face of a leg of a folded part that a triangle lies on, inner or outer; undefined for what is no leg's, and for its rim. */
export function legFace(data: SolidOut, owner: string, triangle: number): string | undefined {
  const skin = data.skin;
  if (!skin || !isOf(owner, "flange")) return undefined;
  const n = skin.zone.length; // corners on face B come first, those on face A after them
  const corners = [0, 1, 2].map((k) => data.triangles[3 * triangle + k]);
  const above = corners.filter((c) => c >= n).length;
  const zone = corners.map((c) => skin.zone[c % n]).find((z) => z > 0 && skin.faces[z].owner === owner);
  if (zone === undefined || above % 3 !== 0) return undefined;
  const inner = skin.bends[zone - 1].angle > 0 === (above === 3);
  return `${skin.faces[zone].key}.${inner ? "inner" : "outer"}`;
}

/** The place that a press on a part means, by what is to be picked. */
export function placeAt(part: PartOut, owner: string, point: THREE.Vector3, as: Place["what"], leg?: string): Place {
  const face = faceWord(part, owner);
  if (isOf(owner, "feature") && as !== "part") return { part: part.key, what: "feature", name: readOwner(owner).key };
  if (as === "centre") return { part: part.key, what: "centre", name: "" };
  if (as === "face" && leg) return { part: part.key, what: "face", name: leg };
  if (as === "part" || !face) return { part: part.key, what: "part", name: "" };
  if (as === "edge") {
    const other = nearestEdge(part, point, face);
    if (other) return { part: part.key, what: "edge", name: `${face}-${other}` };
  }
  return { part: part.key, what: "face", name: face };
}

/** The face that meets the picked one in the edge nearest to a point. */
function nearestEdge(part: PartOut, point: THREE.Vector3, face: string): string | null {
  const data = flatData(part.flat);
  if (!data) return null;
  const matrix = new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>)).invert();
  const p = point.clone().applyMatrix4(matrix);
  const [x0, y0, x1, y1] = data.bounds;
  const [us, vs] = part.ends as [string, string][];
  const t = part.thickness ?? 0;
  const sides: [string, number][] = [
    [us[0], Math.abs(p.x - x0)],
    [us[1], Math.abs(p.x - x1)],
    [vs[0], Math.abs(p.y - y0)],
    [vs[1], Math.abs(p.y - y1)],
    [part.face_b ?? "", Math.abs(p.z)],
    [part.face_a ?? "", Math.abs(p.z - t)],
  ];
  const axis = (word: string) => Object.entries(FACES).find(([, w]) => w.includes(word))?.[0];
  const near = sides.filter(([word]) => axis(word) !== axis(face)).sort((a, b) => a[1] - b[1]);
  return near[0]?.[0] ?? null;
}

/** What a loop on the canvas covers: the parts that lie wholly inside, and the features that do. */
export function covered(
  parts: PartOut[],
  shiftOf: (p: PartOut) => [number, number, number] | null,
  camera: THREE.Camera,
  size: [number, number],
  polygon: Point[],
): { parts: string[]; features: string[] } {
  const v = new THREE.Vector3();
  const on = (x: number, y: number, z: number, matrix: THREE.Matrix4): boolean => {
    v.set(x, y, z).applyMatrix4(matrix).project(camera);
    return inside([((v.x + 1) / 2) * size[0], ((1 - v.y) / 2) * size[1]], polygon);
  };
  const whole: string[] = [];
  const features = new Set<string>();
  for (const part of parts) {
    const data = solidData(part.solid);
    const shift = shiftOf(part);
    if (!data || !shift) continue;
    const matrix = new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>));
    matrix.premultiply(new THREE.Matrix4().makeTranslation(...shift));
    const ends = data.edges;
    let all = ends.length > 0;
    for (let i = 0; all && i < ends.length; i += 3) all = on(ends[i], ends[i + 1], ends[i + 2], matrix);
    if (all) whole.push(part.key);
    const solid = solidGeometry(part.solid, data);
    const at = solid.faces.getAttribute("position");
    const partly = new Set<string>(); // a hole's walls and floors are several runs of triangles
    const own = new Set<string>();
    solid.owners.forEach((owner, i) => {
      if (!isOf(owner, "feature") || originalOf(part.key) !== readOwner(owner).part) return;
      const end = (solid.firsts[i + 1] ?? at.count / 3) * 3;
      for (let k = solid.firsts[i] * 3; k < end; k++)
        if (!on(at.getX(k), at.getY(k), at.getZ(k), matrix)) {
          partly.add(owner);
          return;
        }
      own.add(owner);
    });
    for (const owner of own) if (!partly.has(owner)) features.add(owner);
  }
  return { parts: whole, features: [...features] };
}

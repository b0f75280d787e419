// Caps of a section: where the plane cuts a part, its cut face is filled and hatched by its stock, in the spirit of ISO 128.
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import * as THREE from "three";
import type { PartOut } from "../../api/types";
import { solid as solidData } from "../../state/resources";
import { solidGeometry } from "./solids";

type Props = {
  part: PartOut;
  shift: [number, number, number];
  plane: THREE.Plane;
  tint: string;
  hatch: string;
  ink: string;
  order: number;
};

const textures = new Map<string, THREE.CanvasTexture>();
/** One repeat of a hatch is this many mm. */
const REPEAT = 11;

/** The hatch of a kind of stock: lines at 45° for wood, close pairs for metal, crossed for plastic, dots for board. */
function hatchOf(kind: string, tint: string, ink: string, mirrored: boolean): THREE.CanvasTexture {
  const key = [kind, tint, ink, mirrored].join();
  const found = textures.get(key);
  if (found) return found;
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 128;
  const pen = canvas.getContext("2d")!;
  pen.fillStyle = tint;
  pen.fillRect(0, 0, 128, 128);
  pen.strokeStyle = ink;
  pen.fillStyle = ink;
  pen.lineWidth = 13;
  const line = (from: number, up: boolean) => {
    for (const by of [-128, 0, 128]) {
      pen.beginPath();
      pen.moveTo(from + by, up ? 128 : 0);
      pen.lineTo(from + by + 128, up ? 0 : 128);
      pen.stroke();
    }
  };
  if (kind === "board") {
    for (const [x, y] of [
      [20, 30],
      [84, 20],
      [52, 74],
      [108, 96],
      [16, 106],
    ]) {
      pen.beginPath();
      pen.arc(x, y, 9, 0, Math.PI * 2);
      pen.fill();
    }
  } else {
    line(0, !mirrored);
    if (kind === "ply") line(64, !mirrored);
    if (kind === "metal") line(26, !mirrored);
    if (kind === "plastic") line(0, mirrored);
  }
  const texture = new THREE.CanvasTexture(canvas);
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  texture.colorSpace = THREE.SRGBColorSpace;
  textures.set(key, texture);
  return texture;
}

/** The segments in which a plane cuts a part's triangles, in the room. */
export function sectionSegments(positions: ArrayLike<number>, matrix: THREE.Matrix4, plane: THREE.Plane): number[] {
  const out: number[] = [];
  const p = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()];
  const cut = new THREE.Vector3();
  for (let i = 0; i < positions.length; i += 9) {
    const d = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      p[k].set(positions[i + 3 * k], positions[i + 3 * k + 1], positions[i + 3 * k + 2]).applyMatrix4(matrix);
      d[k] = plane.distanceToPoint(p[k]);
    }
    if (d.every((x) => x >= 0) || d.every((x) => x < 0)) continue;
    for (let k = 0; k < 3; k++) {
      const m = (k + 1) % 3;
      if (d[k] >= 0 !== d[m] >= 0) {
        cut.lerpVectors(p[k], p[m], d[k] / (d[k] - d[m]));
        out.push(cut.x, cut.y, cut.z);
      }
    }
  }
  return out;
}

/** The cap of one part: a fan that flips a bit of the stencil over what is inside, and a hatched sheet laid where it is set. */
export function Cap({ part, shift, plane, tint, hatch, ink, order }: Props) {
  const invalidate = useThree((s) => s.invalidate);
  const data = solidData(part.solid);
  const made = useMemo(() => {
    if (!data) return null;
    const faces = solidGeometry(part.solid, data).faces.getAttribute("position");
    const matrix = new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>));
    matrix.premultiply(new THREE.Matrix4().makeTranslation(...shift));
    const ends = sectionSegments(faces.array, matrix, plane);
    if (!ends.length) return null;
    const box = new THREE.Box3().setFromArray(ends);
    const centre = box.getCenter(new THREE.Vector3());
    const fan: number[] = [];
    for (let i = 0; i < ends.length; i += 6) fan.push(centre.x, centre.y, centre.z, ...ends.slice(i, i + 6));
    const stencil = new THREE.BufferGeometry();
    stencil.setAttribute("position", new THREE.Float32BufferAttribute(fan, 3));
    const edges = new THREE.BufferGeometry();
    edges.setAttribute("position", new THREE.Float32BufferAttribute(ends, 3));
    // the sheet lies in the plane; its picture runs along the plane's two axes in mm
    const [i, j] = Math.abs(plane.normal.x) > 0.5 ? [1, 2] : Math.abs(plane.normal.y) > 0.5 ? [0, 2] : [0, 1];
    const low = box.min.toArray();
    const high = box.max.toArray();
    const corners = [
      [low[i], low[j]],
      [high[i], low[j]],
      [high[i], high[j]],
      [low[i], high[j]],
    ];
    const sheet = new THREE.BufferGeometry();
    const points = corners.map(([a, b]) => {
      const p = centre.toArray();
      p[i] = a;
      p[j] = b;
      return p;
    });
    sheet.setAttribute("position", new THREE.Float32BufferAttribute(points.flat(), 3));
    sheet.setAttribute(
      "uv",
      new THREE.Float32BufferAttribute(
        corners.flatMap(([a, b]) => [a / REPEAT, b / REPEAT]),
        2,
      ),
    );
    sheet.setIndex([0, 1, 2, 0, 2, 3]);
    return { stencil, edges, sheet };
  }, [part, data, plane, shift]);
  useEffect(() => {
    invalidate();
    return () => {
      made?.stencil.dispose();
      made?.edges.dispose();
      made?.sheet.dispose();
    };
  }, [made, invalidate]);
  if (!made) return null;
  return (
    <>
      <mesh geometry={made.stencil} renderOrder={10 + order * 2} raycast={() => null}>
        <meshBasicMaterial
          side={THREE.DoubleSide}
          colorWrite={false}
          depthWrite={false}
          depthTest={false}
          stencilWrite
          stencilFunc={THREE.AlwaysStencilFunc}
          stencilFail={THREE.InvertStencilOp}
          stencilZFail={THREE.InvertStencilOp}
          stencilZPass={THREE.InvertStencilOp}
        />
      </mesh>
      <mesh geometry={made.sheet} renderOrder={11 + order * 2} raycast={() => null}>
        <meshBasicMaterial
          map={hatchOf(hatch, tint, ink, order % 2 === 1)}
          side={THREE.DoubleSide}
          stencilWrite
          stencilRef={0}
          stencilFunc={THREE.NotEqualStencilFunc}
          stencilFail={THREE.ZeroStencilOp}
          stencilZFail={THREE.ZeroStencilOp}
          stencilZPass={THREE.ZeroStencilOp}
          polygonOffset
          polygonOffsetFactor={-1}
          polygonOffsetUnits={-1}
        />
      </mesh>
      <lineSegments geometry={made.edges} renderOrder={12 + order * 2} raycast={() => null}>
        <lineBasicMaterial color={ink} />
      </lineSegments>
    </>
  );
}

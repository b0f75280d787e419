// The hardware of sets: each kind of piece is drawn in all its places at once.
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import type { PartOut, SetOut, SolidOut } from "../../api/types";
import { posesOf } from "../../lib/pose";
import { useAssembly } from "../../state/assembly";
import { useShown } from "../../state/design";
import { useMoves, useMoving } from "../../state/moves";
import { solid as solidData } from "../../state/resources";
import { useView } from "../../state/view";
import { useWriting } from "../../state/writing";
import { solidGeometry } from "./solids";
import { usePaper } from "./usePaper";

type Shift = [number, number, number];
/** One piece where it lies: the matrix that takes its solid to the room, and its bore, or the part that it is on. */
type Lying = { bore: string; part?: string; matrix: THREE.Matrix4 };

const STEEL = "#9aa4ad";
/** From so many pixels on a press is a pull. */
const PULL = 4;
/** How far pieces come out along their axis while all is drawn apart (mm). */
const OUT = 40;

/** Nothing is moved. */
const RESTING = {};

type Props = { plane: THREE.Plane | null; shiftOf: (p: PartOut) => Shift | null };

export function Hardware({ plane, shiftOf }: Props) {
  const shown = useShown();
  const view = useView();
  const { moves } = useMoves(view.moving);
  const at = useMoving((s) => (view.moving ? s.at : RESTING));
  const poses = view.moving && moves ? posesOf(moves, at) : null;
  const assembly = useAssembly(view.step !== null && Boolean(shown?.built.sets?.length));
  const sets = shown?.built.sets ?? [];
  if (!shown || view.unfolding) return null;
  const parts = new Map(shown.built.parts.map((p) => [p.key, p]));
  const kinds = new Map<string, Lying[]>();
  for (const set of sets)
    set.places.forEach((place, n) => {
      const held = place.parts.flatMap((k) => parts.get(k) ?? []);
      if (held.length && held.every((p) => view.hidden[p.key])) return;
      if (view.step !== null && !(assembly && isIn(assembly.sets, set.bore, n, view.step))) return;
      set.pieces[n].forEach((piece, i) => {
        const matrix = new THREE.Matrix4().set(...([...place.matrices[i], 0, 0, 0, 1] as Parameters<THREE.Matrix4["set"]>));
        const pose = poses && [...poses].find(([k]) => k.endsWith(`~set:${set.bore}:${n}`))?.[1];
        if (pose) matrix.premultiply(new THREE.Matrix4().set(...([...pose, 0, 0, 0, 1] as Parameters<THREE.Matrix4["set"]>)));
        const out = view.apart ? shifted(place, set.pieces[n].length, i, held, shiftOf, view.apart, set.length ?? 0) : null;
        if (out) matrix.premultiply(new THREE.Matrix4().makeTranslation(...out));
        kinds.set(piece.solid, [...(kinds.get(piece.solid) ?? []), { bore: set.bore, matrix }]);
      });
    });
  for (const piece of shown.built.fitted ?? []) {
    const part = parts.get(piece.part);
    const shift = part && !view.hidden[part.key] ? shiftOf(part) : null;
    if (!shift) continue;
    const matrix = new THREE.Matrix4().set(...([...piece.matrix, 0, 0, 0, 1] as Parameters<THREE.Matrix4["set"]>));
    matrix.premultiply(new THREE.Matrix4().makeTranslation(...shift));
    const pose = poses?.get(piece.part);
    if (pose) matrix.premultiply(new THREE.Matrix4().set(...([...pose, 0, 0, 0, 1] as Parameters<THREE.Matrix4["set"]>)));
    kinds.set(piece.solid, [...(kinds.get(piece.solid) ?? []), { bore: "", part: piece.part, matrix }]);
  }
  const lit = view.selection?.kind === "bore" ? view.selection.key : "";
  return (
    <>
      {[...kinds].map(([key, lying]) => {
        const data = solidData(key);
        return data ? (
          <Pieces key={`${key} ${lying.length}`} solid={key} data={data} lying={lying} lit={lit} plane={plane} />
        ) : null;
      })}
    </>
  );
}

/** Whether a set is in by a step of the assembly. */
function isIn(behind: { bore: string; place: number }[][], bore: string, place: number, step: number): boolean {
  const at = behind.findIndex((sets) => sets.some((s) => s.bore === bore && s.place === place));
  return at >= 0 && step >= at;
}

/** Where a piece is while all is drawn apart: out along its axis, with the part that it lies on. */
function shifted(
  place: SetOut["places"][number],
  pieces: number,
  i: number,
  held: PartOut[],
  shiftOf: Props["shiftOf"],
  apart: number,
  long: number,
): Shift {
  const first = i < pieces / 2;
  const by = shiftOf(first ? held[0] : held[held.length - 1]) ?? [0, 0, 0];
  const off = (first ? -(OUT + (i === 0 ? long : OUT / 4)) : OUT + (i - pieces / 2) * (OUT / 4)) * apart;
  return [0, 1, 2].map((k) => by[k] + place.way[k] * off) as Shift;
}

type PiecesProps = { solid: string; data: SolidOut; lying: Lying[]; lit: string; plane: THREE.Plane | null };

function Pieces({ solid, data, lying, lit, plane }: PiecesProps) {
  const paper = usePaper();
  const invalidate = useThree((s) => s.invalidate);
  const mesh = useRef<THREE.InstancedMesh>(null);
  const made = useMemo(() => solidGeometry(solid, data), [solid, data]);
  const edges = useMemo(() => edgesOf(data, lying), [data, lying]);
  const clipping = useMemo(() => (plane ? [plane] : []), [plane]);
  useEffect(() => () => edges.dispose(), [edges]);
  useEffect(() => {
    const drawn = mesh.current;
    if (!drawn) return;
    lying.forEach((p, i) => {
      drawn.setMatrixAt(i, p.matrix);
      drawn.setColorAt(i, new THREE.Color(lit && p.bore === lit ? paper.cut : STEEL));
    });
    drawn.instanceMatrix.needsUpdate = true;
    if (drawn.instanceColor) drawn.instanceColor.needsUpdate = true;
    drawn.computeBoundingSphere();
    invalidate();
  }, [lying, lit, paper, invalidate]);
  return (
    <>
      <instancedMesh
        ref={mesh}
        args={[made.faces, undefined, lying.length]}
        onClick={(e) => {
          const { draft, tool, select } = useView.getState();
          if (draft || tool || useWriting.getState().entry || e.instanceId === undefined) return;
          e.stopPropagation();
          const { bore, part } = lying[e.instanceId];
          if (e.delta <= PULL) select(part ? { kind: "part", key: part } : { kind: "bore", key: bore });
        }}
      >
        <meshLambertMaterial
          side={THREE.DoubleSide}
          clippingPlanes={clipping}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </instancedMesh>
      <lineSegments geometry={edges} raycast={() => null}>
        <lineBasicMaterial color={paper.ink} transparent opacity={0.85} clippingPlanes={clipping} />
      </lineSegments>
    </>
  );
}

/** The edges of a solid in all its places. */
function edgesOf(data: SolidOut, lying: Lying[]): THREE.BufferGeometry {
  const n = data.edges.length;
  const points = new Float32Array(n * lying.length);
  const at = new THREE.Vector3();
  lying.forEach((p, i) => {
    for (let k = 0; k < n; k += 3) {
      at.set(data.edges[k], data.edges[k + 1], data.edges[k + 2]).applyMatrix4(p.matrix);
      at.toArray(points, i * n + k);
    }
  });
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(points, 3));
  return geometry;
}

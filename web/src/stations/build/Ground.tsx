// The ground, where nothing stands yet: the first board is drawn on it from corner to corner.
import { type ThreeEvent, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import { FRAME, sheetOf } from "../../lib/document";
import type { Vec } from "../../lib/ghost";
import { useDesign } from "../../state/design";
import { firstBox } from "../../state/firstBox";
import { usePlacing } from "../../state/placing";
import { scaleAt, usePointerAgain } from "./stage";
import { usePaper } from "./usePaper";

/** How far the ground reaches, and a square of it (mm). */
const REACH = 20_000;
const SQUARE = 100;
const SQUARES = 40;

export function Ground() {
  const placing = usePlacing();
  const doc = useDesign((s) => s.doc);
  const head = useDesign((s) => s.head);
  const paper = usePaper();
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => invalidate());
  usePointerAgain();
  const edges = useMemo(() => new THREE.EdgesGeometry(new THREE.BoxGeometry(1, 1, 1)), []);
  useEffect(() => () => edges.dispose(), [edges]);
  const down = useRef<[number, number]>([0, 0]);
  const { plane, corner, reach, stock } = placing;
  const normal = "xyz".indexOf(FRAME[plane].normal);
  // the second corner lies in the board's own plane through the first
  const upright = corner && normal < 2;
  const turn: Vec = upright ? (normal === 0 ? [0, Math.PI / 2, 0] : [Math.PI / 2, 0, 0]) : [0, 0, 0];
  const at: Vec = upright ? (corner.map((x, i) => (i === normal ? x : 0)) as Vec) : [0, 0, 0];
  const box = firstBox(placing);
  const thick =
    (doc &&
      sheetOf(doc, stock) &&
      (head?.values[`/stocks/${stock}/measured`] ?? head?.values[`/stocks/${stock}/nominal`])?.value) ||
    1;
  const low = box?.low ?? null;
  const size = box ? (box.high.map((x, i) => (i === normal ? thick : x - box.low[i])) as Vec) : null;

  function pointed(e: ThreeEvent<MouseEvent>): void {
    placing.ground([e.point.x, e.point.y, upright ? Math.max(e.point.z, 0) : 0], scaleAt(e.point));
  }

  return (
    <>
      <gridHelper args={[SQUARE * SQUARES, SQUARES, paper.ink, paper.ink]} rotation={[Math.PI / 2, 0, 0]} raycast={() => null}>
        <lineBasicMaterial attach="material" color={paper.ink} transparent opacity={0.12} />
      </gridHelper>
      <mesh
        position={at}
        rotation={turn}
        onPointerDown={(e) => {
          down.current = [e.clientX, e.clientY];
        }}
        onPointerMove={(e) => {
          if (!e.nativeEvent.buttons) pointed(e);
        }}
        onClick={(e) => {
          if (Math.hypot(e.clientX - down.current[0], e.clientY - down.current[1]) > 4) return;
          pointed(e);
          void usePlacing.getState().place();
        }}
      >
        <planeGeometry args={[REACH, REACH]} />
        <meshBasicMaterial transparent opacity={0} depthWrite={false} side={THREE.DoubleSide} />
      </mesh>
      {(corner ?? reach) && (
        <mesh position={(corner ?? reach)!} scale={scaleAt(new THREE.Vector3(...(corner ?? reach)!)) * 5} raycast={() => null}>
          <sphereGeometry args={[1, 12, 8]} />
          <meshBasicMaterial color={paper.joint} />
        </mesh>
      )}
      {low && size && doc && (
        <group position={low.map((x, i) => x + size[i] / 2) as Vec}>
          <mesh scale={size} raycast={() => null}>
            <boxGeometry args={[1, 1, 1]} />
            <meshLambertMaterial color={sheetOf(doc, stock)?.tint ?? "#cccccc"} transparent opacity={0.8} />
          </mesh>
          <lineSegments geometry={edges} scale={size} raycast={() => null}>
            <lineBasicMaterial color={paper.joint} />
          </lineSegments>
        </group>
      )}
    </>
  );
}

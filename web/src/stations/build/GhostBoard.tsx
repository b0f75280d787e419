// The board in hand: a ghost where it would lie, and the ends of its room lit and named.
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import * as THREE from "three";
import { FRAME, lookOf } from "../../lib/document";
import { lengths } from "../../lib/figures";
import { endsOf, type Ghost, type Vec } from "../../lib/ghost";
import { useDesign } from "../../state/design";
import { firstBox } from "../../state/firstBox";
import { usePlacing } from "../../state/placing";
import { keepPlace, usePointerAgain } from "./stage";
import { usePaper } from "./usePaper";

const middle = (ghost: Ghost): Vec => [0, 1, 2].map((i) => (ghost.low[i] + ghost.high[i]) / 2) as Vec;

export function GhostBoard() {
  const { ghost, plane, stock } = usePlacing();
  const doc = useDesign((s) => s.doc);
  const paper = usePaper();
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => invalidate());
  usePointerAgain();
  const size = ghost ? ([0, 1, 2].map((i) => ghost.high[i] - ghost.low[i]) as Vec) : null;
  const edges = useMemo(() => new THREE.EdgesGeometry(new THREE.BoxGeometry(1, 1, 1)), []);
  useEffect(() => () => edges.dispose(), [edges]);
  if (!ghost || !size || !doc) return null;
  return (
    <>
      <group position={middle(ghost)} scale={size}>
        <mesh raycast={() => null} renderOrder={4}>
          <boxGeometry args={[1, 1, 1]} />
          <meshLambertMaterial
            color={lookOf(doc, stock).tint}
            emissive={paper.joint}
            emissiveIntensity={0.35}
            transparent
            opacity={0.72}
            depthWrite={false}
          />
        </mesh>
        <lineSegments geometry={edges} raycast={() => null} renderOrder={5}>
          <lineBasicMaterial color={paper.joint} depthTest={false} />
        </lineSegments>
      </group>
      {endsOf(ghost.room, plane).map(({ axis, which, bound }) => {
        const i = ["x", "y", "z"].indexOf(axis);
        // the wall of the room there, as far as the room goes
        const across = [0, 1, 2].map((k) => {
          const [low, high] = ghost.room[(["x", "y", "z"] as const)[k]];
          return k === i ? 0.4 : Math.min(high.value - low.value, 4 * size[k] + 60);
        }) as Vec;
        const at = middle(ghost).map((x, k) => (k === i ? bound.value : x)) as Vec;
        return (
          <group key={`${axis}${which}`} position={at}>
            {bound.part && (
              <mesh scale={across} raycast={() => null} renderOrder={3}>
                <boxGeometry args={[1, 1, 1]} />
                <meshBasicMaterial color={paper.marker} transparent opacity={0.3} depthWrite={false} />
              </mesh>
            )}
          </group>
        );
      })}
    </>
  );
}

/** The names of what a ghost ends at, and the size of a first board, over the picture. */
export function GhostNames() {
  const placing = usePlacing();
  const { ghost, plane } = placing;
  const display = useDesign((s) => s.doc?.display ?? "mm");
  const drawn = firstBox(placing);
  const at = (box: { low: Vec; high: Vec }) =>
    new THREE.Vector3(...([0, 1, 2].map((i) => (box.low[i] + box.high[i]) / 2) as Vec));
  const names = ghost
    ? endsOf(ghost.room, plane)
        .filter(({ bound }) => bound.part)
        .map(({ axis, which, bound }) => {
          const i = ["x", "y", "z"].indexOf(axis);
          return { key: `${axis}${which}`, text: bound.entry, at: at(ghost).setComponent(i, bound.value) };
        })
    : drawn
      ? [
          {
            key: "size",
            text: lengths(
              [FRAME[plane].u, FRAME[plane].v].map((a) => drawn.high["xyz".indexOf(a)] - drawn.low["xyz".indexOf(a)]),
              display,
            ),
            at: at(drawn),
          },
        ]
      : [];
  return names.map((name) => (
    <div key={name.key} className="gripplace" ref={(element) => keepPlace(`ghost ${name.key}`, element, name.at)}>
      <span className="ghostname">{name.text}</span>
    </div>
  ));
}

// Lays the pose of what is moved over the picture: each frame sets matrices alone, and nothing is drawn anew.
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import type * as THREE from "three";
import { posesOf, type Rows } from "../../lib/pose";
import { useMoves, useMoving } from "../../state/moves";

const groups = new Map<string, THREE.Group>();

/** The group of a piece in the picture: a part's key, with what stands behind it for its second leaf. */
export function keepGroup(piece: string, group: THREE.Group | null): void {
  if (group) groups.set(piece, group);
  else groups.delete(piece);
}

export function Poser() {
  const { moves } = useMoves(true);
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    if (!moves) return;
    const lay = () => {
      const poses = posesOf(moves, useMoving.getState().at);
      for (const [piece, group] of groups) {
        const pose = poses.get(piece);
        if (pose) pose4(group, pose);
        else rest(group);
      }
      invalidate();
    };
    lay();
    const stop = useMoving.subscribe(lay);
    // what comes into the picture later is laid too
    const again = requestAnimationFrame(lay);
    return () => {
      stop();
      cancelAnimationFrame(again);
      for (const group of groups.values()) rest(group);
      invalidate();
    };
  }, [moves, invalidate]);
  return null;
}

function pose4(group: THREE.Group, m: Rows): void {
  group.matrixAutoUpdate = false;
  group.matrix.set(m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8], m[9], m[10], m[11], 0, 0, 0, 1);
  group.matrixWorldNeedsUpdate = true;
}

function rest(group: THREE.Group): void {
  if (group.matrixAutoUpdate) return;
  group.matrixAutoUpdate = true;
  group.updateMatrix();
  group.matrixWorldNeedsUpdate = true;
}

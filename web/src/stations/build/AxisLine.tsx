// The axis of what is chosen to move, as a drawing has it: a dash-dot line through its thing, about or along which it goes.
import { useMemo } from "react";
import * as THREE from "three";
import type { PartOut } from "../../api/types";
import { chainOf, moved, posesOf, REST } from "../../lib/pose";
import { useMoves, useMoving } from "../../state/moves";
import { usePaper } from "./usePaper";

/** How far it stands out on both sides, of its thing's length there. */
const OVER = 0.15;

export function AxisLine({ parts }: { parts: PartOut[] }) {
  const { moves } = useMoves(true);
  const chosen = useMoving((s) => s.chosen);
  const paper = usePaper();
  const move = moves?.moves.find((m) => m.key === chosen);
  // it goes with what carries it
  const carriers = useMemo(
    () => (moves && move ? chainOf(moves, move.thing).filter((m) => m.thing !== move.thing) : []),
    [moves, move],
  );
  const carried = useMoving((s) => carriers.map((m) => s.at[m.key] ?? 0).join());
  const ends = useMemo(() => {
    if (!moves || !move) return null;
    const at = Object.fromEntries(carriers.map((m, n) => [m.key, Number(carried.split(",")[n])]));
    const thing = carriers[carriers.length - 1]?.thing;
    const piece = moves.things.find((t) => t.key === thing)?.pieces[0];
    const pose = posesOf(moves, at).get(piece ?? "") ?? REST;
    const along = parts
      .filter((p) => move.parts.includes(p.key) && p.low && p.high)
      .flatMap((p) => [p.low!, p.high!])
      .map((c) => c.reduce((sum, x, k) => sum + (x - move.at[k]) * move.way[k], 0));
    const [low, high] = [Math.min(...along), Math.max(...along)];
    const over = (high - low) * OVER + 20;
    return [low - over, high + over].map(
      (d) => new THREE.Vector3(...moved(pose, [0, 1, 2].map((k) => move.at[k] + move.way[k] * d) as [number, number, number])),
    );
  }, [moves, move, carriers, carried, parts]);
  const line = useMemo(() => {
    if (!ends) return null;
    const material = new THREE.LineDashedMaterial({ color: paper.joint, dashSize: 14, gapSize: 5, depthTest: false });
    const made = new THREE.Line(new THREE.BufferGeometry().setFromPoints(ends), material);
    made.computeLineDistances();
    made.renderOrder = 4;
    made.raycast = () => null;
    return made;
  }, [ends, paper]);
  return line ? <primitive object={line} /> : null;
}

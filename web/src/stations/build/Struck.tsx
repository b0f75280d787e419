// Where what is moved strikes something: a mark in the picture, while it is there.
import { useMemo } from "react";
import * as THREE from "three";
import type { StopOut } from "../../api/types";
import { useMoves, useMoving } from "../../state/moves";
import { keepPlace } from "./stage";

/** A stop is shown from so near on (radians, or mm). */
const NEAR = { turns: 0.003, slides: 0.2 };

const reached = (by: number, stop: StopOut | undefined, kind: keyof typeof NEAR | undefined) =>
  Boolean(kind && stop?.why === "strikes" && stop.at && Math.abs(by - stop.by) < NEAR[kind]);

export function Struck() {
  const { moves } = useMoves(true);
  const chosen = useMoving((s) => s.chosen);
  const travels = useMoving((s) => s.travels);
  const move = moves?.moves.find((m) => m.key === chosen);
  const travel = travels[chosen];
  // the stop alone is waited for, not how far it is from it
  const high = useMoving((s) => reached(s.at[chosen] ?? 0, travel?.high, move?.kind));
  const low = useMoving((s) => reached(s.at[chosen] ?? 0, travel?.low, move?.kind));
  const stop = high ? travel?.high : low ? travel?.low : undefined;
  const place = useMemo(() => (stop?.at ? new THREE.Vector3(...(stop.at as [number, number, number])) : null), [stop]);
  if (!stop || !place) return null;
  return (
    <div className="gripplace" ref={(element) => keepPlace("struck", element, place)}>
      <span className="struck">{stop.words.split(": ").pop()?.replaceAll("_", " ")}</span>
    </div>
  );
}

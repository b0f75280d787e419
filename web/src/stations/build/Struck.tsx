// Where what is moved strikes something: a mark in the picture, while it is there.
import { useMemo } from "react";
import * as THREE from "three";
import { useMoves, useMoving } from "../../state/moves";
import { keepPlace } from "./stage";

/** A stop is shown from so near on (radians, or mm). */
const NEAR = { turns: 0.003, slides: 0.2 };

export function Struck() {
  const { moves } = useMoves(true);
  const { at, chosen, travels } = useMoving();
  const move = moves?.moves.find((m) => m.key === chosen);
  const travel = travels[chosen];
  const by = at[chosen] ?? 0;
  const stop =
    move && travel && [travel.high, travel.low].find((s) => s.why === "strikes" && s.at && Math.abs(by - s.by) < NEAR[move.kind]);
  const place = useMemo(() => (stop?.at ? new THREE.Vector3(...(stop.at as [number, number, number])) : null), [stop]);
  if (!stop || !place) return null;
  return (
    <div className="gripplace" ref={(element) => keepPlace("struck", element, place)}>
      <span className="struck">{stop.words.split(": ").pop()?.replaceAll("_", " ")}</span>
    </div>
  );
}

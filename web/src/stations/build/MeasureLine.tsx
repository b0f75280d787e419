// The shortest way between the two places that are measured, drawn in the scene.
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import * as THREE from "three";
import { useMeasure } from "../../state/measure";
import { useView } from "../../state/view";

export function MeasureLine({ ink }: { ink: string }) {
  const picks = useView((s) => s.picks);
  const invalidate = useThree((s) => s.invalidate);
  const { found } = useMeasure(picks);
  const points = found?.points ?? [];
  const text = JSON.stringify(points);
  const geometry = useMemo(() => {
    const ends = JSON.parse(text) as number[][];
    if (ends.length < 2) return null;
    const made = new THREE.BufferGeometry();
    made.setAttribute("position", new THREE.Float32BufferAttribute(ends.flat(), 3));
    return made;
  }, [text]);
  useEffect(() => {
    invalidate();
    return () => geometry?.dispose();
  }, [geometry, invalidate]);
  if (!geometry) return null;
  return (
    <>
      <lineSegments geometry={geometry} renderOrder={900} raycast={() => null}>
        <lineBasicMaterial color={ink} depthTest={false} linewidth={2} />
      </lineSegments>
      <points geometry={geometry} renderOrder={901} raycast={() => null}>
        <pointsMaterial color={ink} size={9} sizeAttenuation={false} depthTest={false} />
      </points>
    </>
  );
}

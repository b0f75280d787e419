// The camera: the whole design on opening, a side when the net asks for it, and after what is placed, drafted or pulled apart, without a jump.
import type { OrbitControls } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import { type ComponentRef, useCallback, useEffect, useRef } from "react";
import * as THREE from "three";
import type { PartOut } from "../../api/types";
import { useDesign } from "../../state/design";
import { usePulling } from "../../state/pulling";
import { useView } from "../../state/view";
import { type Bounds, between, type Stand, seenWhole, stand, standing } from "./framing";

const DIRECTIONS: Record<string, [number, number, number]> = {
  front: [0, -1, 0.0001],
  back: [0, 1, 0.0001],
  left: [-1, 0, 0.0001],
  right: [1, 0, 0.0001],
  top: [0, -0.0001, 1],
  bottom: [0, -0.0001, -1],
  corner: [0.62, -1, 0.72],
};
/** How long the camera takes on its way (s). */
const SECONDS = 0.35;
/** Pulled apart, what is seen is larger by so much. */
const APART = 1.45;

/** Where the camera stood when the picture was last left, and of which design: another station's picture begins there. */
const left: { design: string; stand: Stand | null } = { design: "", stand: null };

const calm = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** Beside and below a design its sizes' lines take so much of its own extent. */
const LINES = 0.12;

/** The box that holds all parts, larger while they are pulled apart, and where lines stand beside them. */
function boundsOf(parts: PartOut[], apart: boolean, lines: boolean): Bounds {
  const low = [0, 1, 2].map((i) => Math.min(...parts.map((p) => p.low?.[i] ?? 0)));
  const high = [0, 1, 2].map((i) => Math.max(...parts.map((p) => p.high?.[i] ?? 0)));
  if (lines) {
    const off = LINES * Math.hypot(...high.map((x, i) => x - low[i]));
    low[0] -= off;
    low[2] -= off;
  }
  if (!apart) return { low, high };
  const more = [0, 1, 2].map((i) => ((APART - 1) / 2) * (high[i] - low[i]));
  return { low: low.map((x, i) => x - more[i]), high: high.map((x, i) => x + more[i]) };
}

export function View({ parts, keep }: { parts: PartOut[]; keep: { current: THREE.Camera | null } }) {
  const { camera, controls, gl, invalidate, size } = useThree();
  keep.current = camera;
  const side = useView((s) => s.side);
  const design = useDesign((s) => s.id);
  // put together step by step, parts come from afar, and the panel covers the picture's foot
  const apart = useView((s) => s.apart > 0 || s.step !== null);
  const lines = useView((s) => s.station === "sizes");
  const wasApart = useRef(apart);
  // a sheet that is drawn on stays where it is, whatever grows out of the picture
  const inHand = useView((s) => s.pull !== null || s.draft?.kind === "outline");
  const pulling = usePulling((s) => s.pull !== null);
  const shownOnce = useRef(false);
  const lastSide = useRef(side.n);
  const way = useRef<{ from: Stand; to: Stand; share: number } | null>(null);
  const bounds = boundsOf(parts, apart, lines);
  const now = useRef(bounds);
  now.current = bounds;

  const put = useCallback(
    (to: Stand) => {
      const orbit = controls as ComponentRef<typeof OrbitControls> | null;
      if (!orbit) return;
      stand(camera as THREE.PerspectiveCamera, orbit, to);
      invalidate();
    },
    [camera, controls, invalidate],
  );
  const frame = useCallback(
    (direction: THREE.Vector3) => put(standing(now.current, direction, (camera as THREE.PerspectiveCamera).fov, size)),
    [put, camera, size],
  );

  useEffect(() => {
    if (side.n === lastSide.current) return;
    lastSide.current = side.n;
    way.current = null;
    frame(new THREE.Vector3(...(DIRECTIONS[side.name] ?? DIRECTIONS.corner)));
  }, [side, frame]);

  useEffect(() => {
    if (!shownOnce.current && parts.length && controls) {
      shownOnce.current = true;
      const before = left.design === design ? left.stand : null;
      left.design = design;
      left.stand = null;
      if (before) put(before);
      // a side that was asked for before the scene stood is not lost
      else frame(new THREE.Vector3(...(DIRECTIONS[side.name] ?? DIRECTIONS.corner)));
      gl.domElement.dataset.framed = "true";
    }
  }, [parts.length, controls, frame, put, gl, side.name, design]);

  useEffect(() => {
    const orbit = controls as ComponentRef<typeof OrbitControls> | null;
    return () => {
      if (shownOnce.current && orbit && left.design === design)
        left.stand = { position: camera.position.clone(), target: orbit.target.clone() };
    };
  }, [controls, camera, design]);

  // what grows out of the picture is followed, from the same side; what is in hand stays under the hand
  const reach = JSON.stringify(bounds);
  const still = inHand || pulling;
  useEffect(() => {
    const orbit = controls as ComponentRef<typeof OrbitControls> | null;
    const back = wasApart.current && !apart;
    wasApart.current = apart;
    const whole = JSON.parse(reach) as Bounds;
    if (!shownOnce.current || !orbit || still || (!back && seenWhole(whole, camera))) return;
    const eye = camera as THREE.PerspectiveCamera;
    const to = standing(whole, eye.position.clone().sub(orbit.target), eye.fov, size);
    if (calm()) put(to);
    else {
      way.current = { from: { position: eye.position.clone(), target: orbit.target.clone() }, to, share: 0 };
      invalidate();
    }
  }, [reach, apart, still, controls, camera, size, put, invalidate]);

  // whoever takes hold of the view has it
  useEffect(() => {
    const orbit = controls as ComponentRef<typeof OrbitControls> | null;
    const stop = () => {
      way.current = null;
    };
    orbit?.addEventListener("start", stop);
    return () => orbit?.removeEventListener("start", stop);
  }, [controls]);

  useFrame((_, seconds) => {
    const going = way.current;
    if (!going) return;
    // the first frame after a rest comes with all the time of the rest
    going.share = Math.min(1, going.share + Math.min(seconds, 0.05) / SECONDS);
    put(between(going.from, going.to, going.share));
    if (going.share >= 1) way.current = null;
  });
  return null;
}

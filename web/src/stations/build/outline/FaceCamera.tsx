// The camera looks square at the face that is drawn on, and goes back to where it stood; and tells where the face is on the screen.
import type { OrbitControls } from "@react-three/drei";
import { useFrame, useThree } from "@react-three/fiber";
import { type ComponentRef, useEffect, useRef } from "react";
import * as THREE from "three";
import { create } from "zustand";
import { type Sight, sightOf } from "../../../lib/plane";
import { useDrawn } from "../../../state/outline";
import { stand, standing } from "../framing";

type SightState = { sight: Sight | null; element: HTMLElement | null };
/** Where the face that is drawn on is on the screen. */
export const useSight = create<SightState>()(() => ({ sight: null, element: null }));

/** So much is seen round the face, as a share of it. */
const ROUND = 1.3;

export function FaceCamera() {
  const { drawing } = useDrawn();
  const { camera, controls, gl, invalidate, size } = useThree();
  const before = useRef<{ position: THREE.Vector3; target: THREE.Vector3 } | null>(null);
  const seen = useRef("");
  const last = useRef("");

  useEffect(() => {
    const orbit = controls as ComponentRef<typeof OrbitControls> | null;
    if (!drawing || !orbit) return;
    const which = `${drawing.part}/${drawing.feature}`;
    if (seen.current === which) return;
    seen.current = which;
    if (!before.current) before.current = { position: camera.position.clone(), target: orbit.target.clone() };
    const m = new THREE.Matrix4().set(...([...drawing.frame.flat(), 0, 0, 0, 1] as Parameters<THREE.Matrix4["set"]>));
    const [[x, y], [w, h]] = [drawing.low, drawing.size];
    const middle = new THREE.Vector3(x + w / 2, y + h / 2, drawing.high).applyMatrix4(m);
    const corners = [0, 1].map((k) =>
      new THREE.Vector3(x + k * w, y + k * h, drawing.high).applyMatrix4(m).sub(middle).multiplyScalar(ROUND).add(middle),
    );
    const box = new THREE.Box3().setFromPoints(corners);
    const out = new THREE.Vector3(0, 0, drawing.side).transformDirection(m);
    // a hair from the front, so that what is looked down upon has its back above
    if (Math.abs(out.z) > 0.999) out.y -= 1e-4;
    const eye = camera as THREE.PerspectiveCamera;
    stand(eye, orbit, standing({ low: box.min.toArray(), high: box.max.toArray() }, out, eye.fov, size));
    invalidate();
  }, [drawing, camera, controls, invalidate, size]);

  useEffect(() => {
    const orbit = controls as ComponentRef<typeof OrbitControls> | null;
    return () => {
      const stood = before.current;
      useSight.setState({ sight: null });
      if (!stood || !orbit) return;
      camera.position.copy(stood.position);
      orbit.target.copy(stood.target);
      orbit.update();
      invalidate();
    };
  }, [camera, controls, invalidate]);

  useFrame(() => {
    if (!drawing) return;
    const all = camera.projectionMatrix.clone().multiply(camera.matrixWorldInverse);
    const key = `${all.elements.map((x) => x.toPrecision(9)).join()} ${size.width} ${size.height} ${drawing.frame.flat().join()} ${drawing.high}`;
    if (key === last.current) return;
    last.current = key;
    const sight = sightOf(drawing.frame, drawing.high, all.elements, [size.width, size.height]);
    useSight.setState({ sight, element: gl.domElement });
  });
  return null;
}

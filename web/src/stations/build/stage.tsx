// The camera and the turning by hand, as the scene has them: what lies over the canvas, and is pulled, needs them.
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect } from "react";
import * as THREE from "three";

type Stage = { camera: THREE.Camera; element: HTMLElement; controls: { enabled: boolean } | null; invalidate: () => void };
const stage: { now: Stage | null } = { now: null };
/** What stands over the picture; with a `rank` it gives way to what has a higher one. `beside`: it is not shown where that is not. */
type Kept = { element: HTMLElement; at: THREE.Vector3; rank?: number; beside?: string };
const kept = new Map<string, Kept>();

/** Stands in the canvas and keeps what lies over it where it belongs. */
export function GripStage() {
  const { camera, gl, controls, invalidate } = useThree();
  stage.now = { camera, element: gl.domElement, controls: controls as unknown as Stage["controls"], invalidate };
  useFrame(() => {
    const [w, h] = [gl.domElement.clientWidth, gl.domElement.clientHeight];
    for (const { element, at } of kept.values()) {
      const p = at.clone().project(camera);
      element.style.transform = `translate(${((p.x + 1) / 2) * w}px, ${((1 - p.y) / 2) * h}px)`;
    }
    const taken: DOMRect[] = [];
    const ranked = [...kept.values()].sort((a, b) => (b.rank ?? Infinity) - (a.rank ?? Infinity));
    for (const { element, rank } of ranked) {
      const box = rank === undefined ? undefined : element.firstElementChild?.getBoundingClientRect();
      const covers = box && taken.some((b) => overlap(b, box));
      element.style.visibility = covers ? "hidden" : "visible";
      if (box && !covers) taken.push(box);
    }
    for (const { element, beside } of kept.values())
      if (beside && kept.get(beside)?.element.style.visibility === "hidden") element.style.visibility = "hidden";
  });
  return null;
}

const overlap = (a: DOMRect, b: DOMRect) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** What has just come into the canvas is told where the pointer is: it may rest there already. */
export function usePointerAgain(): void {
  const update = useThree((s) => s.events.update);
  useEffect(() => {
    // once it has been drawn, with the camera where it then stands
    let frame = requestAnimationFrame(() => {
      frame = requestAnimationFrame(() => update?.());
    });
    invalidate();
    return () => cancelAnimationFrame(frame);
  }, [update]);
}

/** An element over the canvas stays at a place in the room; null lets it go. */
export function keepPlace(
  name: string,
  element: HTMLElement | null,
  at: THREE.Vector3,
  more: Pick<Kept, "rank" | "beside"> = {},
): void {
  if (element) kept.set(name, { element, at, ...more });
  else kept.delete(name);
  invalidate();
}

export function invalidate(): void {
  stage.now?.invalidate();
}

/** Whether the view turns when it is pulled. */
export function turning(on: boolean): void {
  if (stage.now?.controls) stage.now.controls.enabled = on;
}

/** Where along a line in the room the pointer is, in mm from the line's point. */
export function alongLine(at: THREE.Vector3, way: THREE.Vector3, x: number, y: number): number {
  if (!stage.now) return 0;
  const { camera, element } = stage.now;
  const box = element.getBoundingClientRect();
  const caster = new THREE.Raycaster();
  caster.setFromCamera(new THREE.Vector2(((x - box.left) / box.width) * 2 - 1, 1 - ((y - box.top) / box.height) * 2), camera);
  const toward = caster.ray.direction;
  const w = at.clone().sub(caster.ray.origin);
  const [b, p, q] = [way.dot(toward), way.dot(w), toward.dot(w)];
  const square = 1 - b * b;
  return square < 1e-6 ? 0 : (b * q - p) / square;
}

/** Where a place in the room is on the screen. */
export function onScreen(at: readonly [number, number, number]): [number, number] {
  if (!stage.now) return [0, 0];
  const { camera, element } = stage.now;
  const box = element.getBoundingClientRect();
  const p = new THREE.Vector3(...at).project(camera);
  return [box.left + ((p.x + 1) / 2) * box.width, box.top + ((1 - p.y) / 2) * box.height];
}

/** How many mm a pixel is at a place in the room. */
export function scaleAt(at: THREE.Vector3): number {
  if (!stage.now) return 1;
  const camera = stage.now.camera as THREE.PerspectiveCamera;
  const height = stage.now.element.clientHeight || 1;
  return (2 * camera.position.distanceTo(at) * Math.tan((camera.fov * Math.PI) / 360)) / height;
}

// Pressing in the scene: what is hit is selected, measured or added; pressing again on the same spot takes what lies behind.
import type { ThreeEvent } from "@react-three/fiber";
import { useCallback, useRef, useState } from "react";
import type * as THREE from "three";
import type { PartOut } from "../../api/types";
import { originalOf } from "../../lib/document";
import { isOf, readOwner } from "../../lib/owner";
import { useDesign } from "../../state/design";
import { usePlacing } from "../../state/placing";
import { solid as solidData } from "../../state/resources";
import { useView } from "../../state/view";
import { faceNamed, useWriting } from "../../state/writing";
import { drawTo, pressAlong, pressTo } from "./drawn";
import { faceWord, legFace, placeAt } from "./picking";
import { ownerAt, solidGeometry } from "./solids";

export type Hit = { key: string; owner: string; leg?: string; at: THREE.Vector3 };
/** Where was pressed, what lies under it, the nearest first, and which of it is chosen. */
export type Under = { x: number; y: number; hits: Hit[]; chosen: number };

/** Pixels from which on a press is a pull, and within which another one is on the same spot. */
const PULL = 4;
const SPOT = 6;

/** What a ray hits, a part once, without what a section takes away; and the point where it meets the first. */
function hitsOf(event: ThreeEvent<MouseEvent>, parts: PartOut[], plane: THREE.Plane | null) {
  const hits: Hit[] = [];
  let first: THREE.Vector3 | null = null;
  for (const hit of event.intersections) {
    const key = hit.object.userData.part as string | undefined;
    if (!key || hits.some((h) => h.key === key)) continue;
    if (plane && plane.distanceToPoint(hit.point) < 0) continue;
    const part = parts.find((p) => p.key === key);
    const data = part && solidData(part.solid);
    if (!part || !data) continue;
    first ??= hit.point;
    const owner = ownerAt(solidGeometry(part.solid, data), hit.faceIndex ?? 0);
    hits.push({ key, owner, leg: legFace(data, owner, hit.faceIndex ?? 0), at: hit.point });
  }
  return { hits, first };
}

export function usePicking(parts: PartOut[], plane: THREE.Plane | null) {
  const view = useView();
  const doc = useDesign((s) => s.doc);
  const [under, setUnder] = useState<Under | null>(null);
  const down = useRef<[number, number]>([0, 0]);
  const pulled = (x: number, y: number) => Math.hypot(x - down.current[0], y - down.current[1]) > PULL;

  function choose(hit: Hit) {
    const part = parts.find((p) => p.key === hit.key);
    const face = part && faceWord(part, hit.owner);
    const drafting = view.draft !== null;
    if (!drafting && isOf(hit.owner, "feature"))
      view.select({ kind: "feature", part: originalOf(hit.key), key: readOwner(hit.owner).key });
    else if (!drafting && isOf(hit.owner, "bore")) view.select({ kind: "bore", key: readOwner(hit.owner).key });
    else view.select({ kind: "part", key: hit.key, face });
  }

  /** A board in hand hangs where the pointer is; a face that the entry which waits could name is lit. */
  function move(event: ThreeEvent<PointerEvent>) {
    const { entry } = useWriting.getState();
    if (view.draft?.kind === "line" && !entry && !event.nativeEvent.buttons) {
      drawTo(event, seen(event), parts);
      return;
    }
    if ((view.draft?.kind !== "place" && !entry) || event.nativeEvent.buttons) return;
    const hit = seen(event);
    const part = parts.find((p) => p.key === hit?.key);
    if (!part || !hit) return;
    const face = hit.leg ?? faceWord(part, hit.owner);
    const first = hit.at;
    if (entry) {
      const named = face && doc && faceNamed(doc, part.key, face, entry.axis).name;
      useWriting.getState().point(named && face ? { part: part.key, face } : null);
      return;
    }
    const camera = event.camera as THREE.PerspectiveCamera;
    const height = (event.nativeEvent.target as HTMLElement).clientHeight || 1;
    const scale = (2 * camera.position.distanceTo(first) * Math.tan((camera.fov * Math.PI) / 360)) / height;
    if (face) usePlacing.getState().point({ part: part.key, face, at: [first.x, first.y, first.z], scale });
    else usePlacing.getState().leave();
  }

  /** What is hit first of what is not seen through. */
  function seen(event: ThreeEvent<MouseEvent>): Hit | undefined {
    return hitsOf(event, parts, plane).hits.find((h) => !view.glass[h.key]);
  }

  /** The face that is hit first. */
  function faceAt(event: ThreeEvent<MouseEvent>): { part: string; face: string } | null {
    const hit = seen(event);
    const part = parts.find((p) => p.key === hit?.key);
    const face = part && hit && (hit.leg ?? faceWord(part, hit.owner));
    return part && face ? { part: part.key, face } : null;
  }

  function pick(event: ThreeEvent<MouseEvent>) {
    event.stopPropagation();
    const { clientX: x, clientY: y, ctrlKey, metaKey, shiftKey } = event.nativeEvent;
    if (pulled(x, y)) return;
    const { entry, say } = useWriting.getState();
    if (entry && doc) {
      const face = faceAt(event);
      const named = face && faceNamed(doc, face.part, face.face, entry.axis);
      if (named?.name) entry.write(named.name);
      else say(named ? named.why : "Press one of its faces.");
      return;
    }
    if (view.draft?.kind === "place") return void usePlacing.getState().place();
    if (view.draft?.kind === "line") return pressTo(event, seen(event), parts);
    const { hits, first } = hitsOf(event, parts, plane);
    if (!hits.length || !first) return;
    if (view.tool === "measure") {
      const part = parts.find((p) => p.key === hits[0].key)!;
      view.pick(placeAt(part, hits[0].owner, first, view.pickAs, hits[0].leg));
      return;
    }
    if (ctrlKey || metaKey || shiftKey) {
      view.toggle(hits[0].key);
      return;
    }
    const again =
      under &&
      Math.hypot(x - under.x, y - under.y) < SPOT &&
      under.hits.map((h) => h.key).join() === hits.map((h) => h.key).join();
    const chosen = again ? (under.chosen + 1) % hits.length : 0;
    setUnder({ x, y, hits, chosen });
    choose(hits[chosen]);
  }

  // solids are drawn anew only where something of theirs changes
  const latest = useRef({ pick, move });
  latest.current = { pick, move };
  const onPick = useCallback((e: ThreeEvent<MouseEvent>) => latest.current.pick(e), []);
  const onMove = useCallback((e: ThreeEvent<PointerEvent>) => latest.current.move(e), []);

  return {
    under,
    pick: onPick,
    move: onMove,
    press: (x: number, y: number) => {
      down.current = [x, y];
    },
    /** Nothing is under the pointer. */
    miss: (x: number, y: number) => {
      if (pulled(x, y) || useWriting.getState().entry) return;
      setUnder(null);
      if (view.draft?.kind === "line") pressAlong(x, y);
      if (!view.draft && view.tool !== "measure") view.select(null);
    },
    /** Takes one of those that lie under the pointer. */
    take: (chosen: number) => {
      if (!under) return;
      setUnder({ ...under, chosen });
      choose(under.hits[chosen]);
    },
  };
}

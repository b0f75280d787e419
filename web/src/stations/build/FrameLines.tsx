// The lines and points of frames in the picture: those of what is selected, all of them while a line is drawn; and the line in hand.
import { type ThreeEvent, useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import type { FrameOut } from "../../api/types";
import { type Axis, isFramed } from "../../lib/document";
import { length } from "../../lib/figures";
import type { Vec } from "../../lib/ghost";
import { useDesign, useShown } from "../../state/design";
import { type LineEnd, placeOf, useDrawing } from "../../state/drawing";
import { words } from "../../state/shape";
import { useView } from "../../state/view";
import { alongLine, keepPlace, scaleAt, usePointerAgain } from "./stage";
import { usePaper } from "./usePaper";

/** The ground on which a first line begins reaches so far (mm). */
const REACH = 20_000;
/** Pixels from which on a press is a pull. */
const PULL = 4;
const AXES: Axis[] = ["x", "y", "z"];
const WAYS = AXES.map((_, i) => new THREE.Vector3(...([0, 1, 2].map((k) => (k === i ? 1 : 0)) as Vec)));

/** The frames that show: of what is selected, or all while lines are drawn. */
function useFrames(): FrameOut[] {
  const frames = useShown()?.built.frames;
  const doc = useDesign((s) => s.doc);
  const { selection, draft } = useView();
  if (!frames || !doc) return [];
  if (draft?.kind === "line") return frames;
  const part = selection?.kind === "part" ? doc.parts[selection.key] : undefined;
  const own =
    selection?.kind === "frame" ? selection.key : isFramed(part) ? part.frame : draft?.kind === "connector" ? draft.frame : "";
  return frames.filter((f) => f.key === own);
}

/** Lines before everything, and the one in hand. */
export function FrameLines() {
  const frames = useFrames();
  const paper = usePaper();
  const drafting = useView((s) => s.draft?.kind === "line");
  const { start, over } = useDrawing();
  const redraw = useThree((s) => s.invalidate);
  useEffect(() => redraw());
  const ends = frames.flatMap((f) => {
    const at = new Map(f.points.map((p) => [p.key, p.at]));
    return f.lines.flatMap((line) => (at.has(line.a) && at.has(line.b) ? [at.get(line.a)!, at.get(line.b)!] : []));
  });
  return (
    <>
      <Drawn points={ends} color={paper.joint} />
      {drafting && start && over && <Drawn points={[start.at, over.at]} color={paper.cut} />}
      {drafting && (over ?? start) && (
        <mesh
          position={(over ?? start)!.at}
          scale={scaleAt(new THREE.Vector3(...(over ?? start)!.at)) * 5}
          raycast={() => null}
          renderOrder={9}
        >
          <sphereGeometry args={[1, 12, 8]} />
          <meshBasicMaterial color={paper.cut} depthTest={false} />
        </mesh>
      )}
      {drafting && !start && <Floor />}
    </>
  );
}

function Drawn({ points, color }: { points: readonly (readonly number[])[]; color: string }) {
  const key = points.map((p) => p.map((x) => x.toFixed(3)).join()).join(" ");
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key is all of it
  const geometry = useMemo(
    () => new THREE.BufferGeometry().setFromPoints(points.map((p) => new THREE.Vector3(p[0], p[1], p[2]))),
    [key],
  );
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <lineSegments geometry={geometry} raycast={() => null} renderOrder={8}>
      <lineBasicMaterial color={color} depthTest={false} transparent opacity={0.9} />
    </lineSegments>
  );
}

/** The ground, on which a line may begin where nothing stands. */
function Floor() {
  const paper = usePaper();
  const point = useDrawing((s) => s.point);
  const down = useRef<[number, number]>([0, 0]);
  usePointerAgain();
  const first = (e: ThreeEvent<MouseEvent>) => e.intersections[0]?.object === e.object;
  function pointed(e: ThreeEvent<MouseEvent>): void {
    const scale = scaleAt(e.point);
    const step = 10 ** Math.ceil(Math.log10(Math.max(scale * 4, 1)));
    const at = [e.point.x, e.point.y].map((x) => Math.round(x / step) * step + 0);
    point({ spot: { at: [at[0], at[1], 0] }, at: [at[0], at[1], 0], words: "on the ground" }, scale);
  }
  return (
    <>
      <gridHelper args={[4000, 40, paper.ink, paper.ink]} rotation={[Math.PI / 2, 0, 0]} raycast={() => null}>
        <lineBasicMaterial attach="material" color={paper.ink} transparent opacity={0.12} />
      </gridHelper>
      <mesh
        onPointerDown={(e) => {
          down.current = [e.clientX, e.clientY];
        }}
        onClick={(e) => {
          if (Math.hypot(e.clientX - down.current[0], e.clientY - down.current[1]) > PULL || !first(e)) return;
          pointed(e); // a finger presses without having moved there
          void useDrawing.getState().press();
        }}
        onPointerMove={(e) => {
          if (!e.nativeEvent.buttons && first(e)) pointed(e);
        }}
      >
        <planeGeometry args={[REACH, REACH]} />
        <meshBasicMaterial transparent opacity={0} depthWrite={false} side={THREE.DoubleSide} />
      </mesh>
    </>
  );
}

/** Where the pointer has the line end along an axis through its beginning: the axis that comes nearest to it on the screen. */
export function alongAxes(
  start: LineEnd,
  only: Axis | "",
  x: number,
  y: number,
  project: (at: Vec) => [number, number],
): LineEnd | null {
  let best: { off: number; axis: Axis; at: Vec } | null = null;
  const from = new THREE.Vector3(...start.at);
  AXES.forEach((axis, i) => {
    if (only && axis !== only) return;
    const by = alongLine(from, WAYS[i], x, y);
    const at = start.at.map((s, k) => (k === i ? s + by : s)) as Vec;
    const [px, py] = project(at);
    const off = Math.hypot(px - x, py - y);
    if (Number.isFinite(off) && (!best || off < best.off)) best = { off, axis, at };
  });
  if (!best) return null;
  const { axis, at } = best as { axis: Axis; at: Vec };
  return { spot: { at }, at, words: `along ${axis}`, axis };
}

/** The points, over the picture, to begin and end lines at or to open their frame; and how long the line in hand is. */
export function FramePoints() {
  const frames = useFrames();
  const doc = useDesign((s) => s.doc);
  const { draft, select } = useView();
  const drawing = useDrawing();
  const { start, over } = drawing;
  const drafting = draft?.kind === "line";
  if (!doc) return null;
  const middle = start && over ? new THREE.Vector3(...start.at).add(new THREE.Vector3(...over.at)).multiplyScalar(0.5) : null;
  return (
    <>
      {frames.flatMap((f) =>
        f.points.map((p) => (
          <div
            key={`${f.key} ${p.key}`}
            className="gripplace"
            ref={(element) => keepPlace(`point ${f.key} ${p.key}`, element, new THREE.Vector3(...(p.at as Vec)))}
          >
            <button
              type="button"
              className="framepoint"
              data-on={start?.spot.point === `${f.key}:${p.key}`}
              aria-label={`${words(f.name)}, point ${p.number}`}
              onPointerEnter={() => drafting && drawing.point(placeOf(`${f.key}:${p.key}`))}
              onFocus={() => drafting && drawing.point(placeOf(`${f.key}:${p.key}`))}
              onClick={() => {
                if (!drafting) select({ kind: "frame", key: f.key });
                else {
                  drawing.point(placeOf(`${f.key}:${p.key}`));
                  void useDrawing.getState().press();
                }
              }}
            >
              {p.number}
            </button>
          </div>
        )),
      )}
      {drafting && start && over && middle && (
        <div key="long" className="gripplace" ref={(element) => keepPlace("line in hand", element, middle)}>
          <span className="ghostname">
            {length(Math.round(new THREE.Vector3(...start.at).distanceTo(new THREE.Vector3(...over.at)) * 10) / 10, doc.display)}
          </span>
        </div>
      )}
    </>
  );
}

// The scene: solids in their places, picking (also of what lies behind), and the camera.
import { OrbitControls } from "@react-three/drei";
import { Canvas, type ThreeEvent, useThree } from "@react-three/fiber";
import { type ComponentRef, useCallback, useEffect, useMemo, useRef, useState } from "react";
import * as THREE from "three";
import type { PartOut } from "../../api/types";
import { shiftAt, useAssembly } from "../../state/assembly";
import { useShown } from "../../state/design";
import { solid as solidData } from "../../state/resources";
import { litParts, ownerOf, useView } from "../../state/view";
import { ownedGeometry, ownerAt, solidGeometry } from "./solids";
import { usePaper } from "./usePaper";

type Under = { x: number; y: number; hits: { key: string; owner: string }[]; chosen: number };

export function Scene() {
  const shown = useShown();
  const view = useView();
  const paper = usePaper();
  const [under, setUnder] = useState<Under | null>(null);
  const down = useRef<[number, number]>([0, 0]);
  const parts = shown?.built.parts.filter((p) => p.solid) ?? [];
  const assembly = useAssembly(view.step !== null);
  const lit = litParts(view.selection, shown?.built.joints ?? [], shown?.doc.bores ?? {});
  const name = (key: string) => parts.find((p) => p.key === key)?.path.replaceAll("_", " ") ?? "";

  function pick(event: ThreeEvent<MouseEvent>) {
    event.stopPropagation();
    const { clientX: x, clientY: y } = event.nativeEvent;
    if (Math.hypot(x - down.current[0], y - down.current[1]) > 4) return;
    const hits: Under["hits"] = [];
    for (const hit of event.intersections) {
      const key = hit.object.userData.part as string | undefined;
      if (!key || hits.some((h) => h.key === key)) continue;
      const part = parts.find((p) => p.key === key);
      const data = part && solidData(part.solid);
      if (!part || !data) continue;
      hits.push({ key, owner: ownerAt(solidGeometry(part.solid, data), hit.faceIndex ?? 0) });
    }
    if (!hits.length) return;
    // pressing again on the same spot takes the next part under the pointer
    const again =
      under && Math.hypot(x - under.x, y - under.y) < 6 && under.hits.map((h) => h.key).join() === hits.map((h) => h.key).join();
    const chosen = again ? (under.chosen + 1) % hits.length : 0;
    setUnder({ x, y, hits, chosen });
    choose(hits[chosen]);
  }

  function choose(hit: { key: string; owner: string }) {
    const part = parts.find((p) => p.key === hit.key);
    const face =
      hit.owner === "face_a"
        ? part?.face_a
        : hit.owner === "face_b"
          ? part?.face_b
          : hit.owner.startsWith("edge:")
            ? hit.owner.slice(5)
            : undefined;
    const drafting = view.draft !== null;
    if (!drafting && hit.owner.startsWith("feature:"))
      view.select({ kind: "feature", part: hit.key, key: hit.owner.split(":")[2] });
    else if (!drafting && hit.owner.startsWith("bore:")) view.select({ kind: "bore", key: hit.owner.slice(5) });
    else view.select({ kind: "part", key: hit.key, face });
  }

  const canvas = useRef<HTMLDivElement>(null);
  const box = canvas.current?.getBoundingClientRect();
  return (
    <div
      ref={canvas}
      style={{ position: "absolute", inset: 0 }}
      onPointerDownCapture={(e) => {
        down.current = [e.clientX, e.clientY];
      }}
      data-testid="scene"
    >
      <Canvas
        flat
        frameloop="demand"
        camera={{ fov: 28, near: 1, far: 60000, up: [0, 0, 1], position: [900, -1400, 900] }}
        dpr={[1, 2]}
        gl={{ antialias: true, preserveDrawingBuffer: true }}
        onPointerMissed={(e) => {
          if (Math.hypot(e.clientX - down.current[0], e.clientY - down.current[1]) > 4) return;
          setUnder(null);
          if (!view.draft) view.select(null);
        }}
      >
        <ambientLight intensity={1.5} />
        <directionalLight position={[0.45, -1, 1.2]} intensity={1.5} />
        <directionalLight position={[-1, 0.4, 0.3]} intensity={0.45} />
        {parts.map((p) => (
          <PartSolid
            key={p.key}
            part={p}
            shift={assembly && view.step !== null ? shiftAt(assembly, p.key, view.step) : HOME}
            tint={shown?.doc.stocks[p.stock]?.tint ?? "#cccccc"}
            lit={lit.includes(p.key)}
            hover={view.hover === p.key}
            hidden={Boolean(view.hidden[p.key])}
            glass={Boolean(view.glass[p.key])}
            owner={ownerOf(view.selection)}
            face={view.selection?.kind === "part" && view.selection.key === p.key ? view.selection.face : undefined}
            paper={paper}
            onPick={pick}
          />
        ))}
        <View parts={parts} />
        <OrbitControls makeDefault enableDamping={false} />
      </Canvas>
      {under && under.hits.length > 1 && box && (
        <div
          className="under"
          style={{
            left: Math.min(under.x - box.left + 14, box.width - 150),
            top: Math.min(under.y - box.top + 8, box.height - 24 * under.hits.length - 20),
          }}
          role="listbox"
          aria-label="Parts under the pointer"
        >
          {under.hits.map((h, i) => (
            <button
              type="button"
              key={h.key}
              role="option"
              aria-selected={i === under.chosen}
              onMouseEnter={() => view.point(h.key)}
              onMouseLeave={() => view.point("")}
              onClick={() => {
                setUnder({ ...under, chosen: i });
                choose(h);
              }}
            >
              {name(h.key)}
            </button>
          ))}
        </div>
      )}
      <div className="hint">
        {view.hover
          ? name(view.hover)
          : "Pull to turn, pull with the right button to shift, scroll to come nearer. Press again for what lies behind."}
      </div>
    </div>
  );
}

const HOME: [number, number, number] = [0, 0, 0];

type SolidProps = {
  part: PartOut;
  shift: [number, number, number] | null;
  tint: string;
  lit: boolean;
  hover: boolean;
  hidden: boolean;
  glass: boolean;
  owner: string;
  face?: string;
  paper: ReturnType<typeof usePaper>;
  onPick: (e: ThreeEvent<MouseEvent>) => void;
};

function PartSolid({ part, shift, tint, lit, hover, hidden, glass, owner, face, paper, onPick }: SolidProps) {
  const point = useView((s) => s.point);
  const invalidate = useThree((s) => s.invalidate);
  const data = solidData(part.solid);
  const solid = useMemo(() => (data ? solidGeometry(part.solid, data) : null), [part.solid, data]);
  const matrix = useMemo(
    () => new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>)),
    [part.matrix],
  );
  // the frame of a board that faces the front turns its faces inside out; three.js reads that off the matrix itself
  const faceOwner = face ? (face === part.face_a ? "face_a" : face === part.face_b ? "face_b" : `edge:${face}`) : "";
  const owned = useMemo(
    () => (solid && (owner || faceOwner) ? ownedGeometry(solid, owner || faceOwner) : null),
    [solid, owner, faceOwner],
  );
  useEffect(() => () => owned?.dispose(), [owned]);
  useEffect(() => invalidate());
  if (!solid || hidden || !shift) return null;
  const colour = lit ? paper.marker : tint;
  return (
    <group position={shift}>
      <group matrix={matrix} matrixAutoUpdate={false}>
        <mesh
          geometry={solid.faces}
          userData={{ part: part.key }}
          onClick={onPick}
          renderOrder={glass ? 2 : 0}
          onPointerMove={(e) => {
            e.stopPropagation();
            point(part.key);
          }}
          onPointerOut={() => point("")}
        >
          <meshLambertMaterial
            key={glass ? "glass" : "solid"}
            color={colour}
            emissive={colour}
            emissiveIntensity={hover && !lit ? 0.28 : 0.05}
            transparent={glass}
            opacity={glass ? 0.16 : 1}
            depthWrite={!glass}
            side={THREE.DoubleSide}
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        </mesh>
        <lineSegments geometry={solid.edges} raycast={() => null}>
          <lineBasicMaterial color={paper.ink} transparent opacity={glass ? 0.45 : 0.85} />
        </lineSegments>
        {owned && (
          <mesh geometry={owned} raycast={() => null} renderOrder={3}>
            <meshBasicMaterial
              color={owner.startsWith("joint") ? paper.joint : owner ? paper.cut : paper.marker}
              side={THREE.DoubleSide}
              polygonOffset
              polygonOffsetFactor={-1}
              polygonOffsetUnits={-1}
            />
          </mesh>
        )}
      </group>
    </group>
  );
}

const DIRECTIONS: Record<string, [number, number, number]> = {
  front: [0, -1, 0.0001],
  back: [0, 1, 0.0001],
  left: [-1, 0, 0.0001],
  right: [1, 0, 0.0001],
  top: [0, -0.0001, 1],
  bottom: [0, -0.0001, -1],
  corner: [0.62, -1, 0.72],
};

/** The camera: the whole design on opening, and a side when the net asks for it. */
function View({ parts }: { parts: PartOut[] }) {
  const { camera, controls, invalidate, size } = useThree();
  const side = useView((s) => s.side);
  const shownOnce = useRef(false);
  const lastSide = useRef(side.n);
  const low = [0, 1, 2].map((i) => Math.min(...parts.map((p) => p.low?.[i] ?? 0)));
  const high = [0, 1, 2].map((i) => Math.max(...parts.map((p) => p.high?.[i] ?? 0)));
  const bounds = useRef({ low, high });
  bounds.current = { low, high };

  const frame = useCallback(
    (direction: [number, number, number]) => {
      const orbit = controls as ComponentRef<typeof OrbitControls> | null;
      if (!orbit) return;
      const { low: a, high: b } = bounds.current;
      const centre = new THREE.Vector3(...[0, 1, 2].map((i) => (a[i] + b[i]) / 2));
      const radius = Math.max(60, new THREE.Vector3(...[0, 1, 2].map((i) => b[i] - a[i])).length() / 2);
      const fov = ((camera as THREE.PerspectiveCamera).fov * Math.PI) / 360;
      // far enough for the whole to fit across as well as down, with a little air
      const distance = (radius / Math.sin(fov)) * Math.max(0.98, (0.9 * size.height) / size.width);
      camera.position.copy(centre).addScaledVector(new THREE.Vector3(...direction).normalize(), distance);
      camera.near = distance / 100;
      camera.far = distance * 20;
      camera.updateProjectionMatrix();
      orbit.target.copy(centre);
      orbit.update();
      invalidate();
    },
    [camera, controls, invalidate, size],
  );
  useEffect(() => {
    if (side.n === lastSide.current) return;
    lastSide.current = side.n;
    frame(DIRECTIONS[side.name] ?? DIRECTIONS.corner);
  }, [side, frame]);
  useEffect(() => {
    if (!shownOnce.current && parts.length && controls) {
      shownOnce.current = true;
      // a side that was asked for before the scene stood is not lost
      frame(DIRECTIONS[side.name] ?? DIRECTIONS.corner);
    }
  }, [parts.length, controls, frame, side.name]);
  return null;
}

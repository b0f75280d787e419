// The scene: solids in their places, picking (also of what lies behind), and the camera.

import { OrbitControls } from "@react-three/drei";
import { Canvas, type ThreeEvent, useThree } from "@react-three/fiber";
import { memo, useCallback, useEffect, useMemo, useRef } from "react";
import * as THREE from "three";
import type { PartOut } from "../../api/types";
import { LoopTool, type Point } from "../../frame/Loop";
import { lookOf } from "../../lib/document";
import { isOf } from "../../lib/owner";
import { shiftAt, useAssembly } from "../../state/assembly";
import { useShown } from "../../state/design";
import { useMoves } from "../../state/moves";
import { flat as flatData, solid as solidData } from "../../state/resources";
import { lightOf, litOf, words } from "../../state/shape";
import { ownersOf, useView } from "../../state/view";
import { faceNamed, useWriting } from "../../state/writing";
import { AxisLine } from "./AxisLine";
import { draw } from "./drawn";
import { FaceActs } from "./FaceActs";
import { FeatureLines, FeaturePoint } from "./FeaturePoint";
import { FlangeGrips, impossible } from "./FlangeGrips";
import { FrameLines, FramePoints } from "./FrameLines";
import { sharesOf } from "./folding";
import { GhostBoard, GhostNames } from "./GhostBoard";
import { Ground } from "./Ground";
import { Hardware } from "./Hardware";
import { MeasureLine } from "./MeasureLine";
import { takeInHand } from "./moveDrag";
import { FaceCamera } from "./outline/FaceCamera";
import { Sheet } from "./outline/Sheet";
import { PartPulls, PulledOutline } from "./PartPulls";
import { keepGroup, Poser } from "./Poser";
import { covered, faceOwner } from "./picking";
import { Cap } from "./SectionCaps";
import { SizeLineDrawing, SizeLineTags } from "./SizeLines";
import { Struck } from "./Struck";
import { centreOf, planeOf } from "./section";
import { foldedGeometry, leafGeometry, ownedGeometry, solidGeometry } from "./solids";
import { GripStage } from "./stage";
import { UnderPointer } from "./UnderPointer";
import { usePaper } from "./usePaper";
import { usePicking } from "./usePicking";
import { View } from "./View";

export function Scene() {
  const shown = useShown();
  const view = useView();
  const camera = useRef<THREE.Camera | null>(null);
  const parts = useMemo(() => shown?.built.parts.filter((p) => p.solid) ?? [], [shown?.built]);
  const plane = useMemo(() => planeOf(view.section, parts), [view.section, parts]);
  const picking = usePicking(parts, plane);
  const writing = useWriting();
  const shiftOf = useShifts(parts);
  const name = (key: string) => words(parts.find((p) => p.key === key)?.path ?? "");
  const canvas = useRef<HTMLDivElement>(null);
  const box = canvas.current?.getBoundingClientRect();
  // what was pressed last is still what is selected, and nothing is drafted since
  const { under } = picking;
  const pressed = under?.hits[under.chosen];
  const picked = !view.draft && pressed && litOf(view.selection, shown?.built, shown?.doc).includes(pressed.key);
  const { moves } = useMoves(view.moving);
  const onTake = useMemo(
    () => (view.moving && moves ? (e: ThreeEvent<PointerEvent>, piece: string) => void takeInHand(e, moves, piece) : undefined),
    [view.moving, moves],
  );

  function loop(polygon: Point[], more: boolean) {
    if (!camera.current || !box) return;
    const inSight = parts.filter((p) => !view.hidden[p.key]);
    const found = covered(inSight, shiftOf, camera.current, [box.width, box.height], polygon);
    const before = more && view.selection?.kind === "many" ? view.selection : { parts: [], features: [] };
    view.selectMany(
      [...new Set([...before.parts, ...found.parts])],
      [...new Set([...before.features, ...(found.parts.length ? [] : found.features)])],
    );
    view.setTool("");
  }

  return (
    <div
      ref={canvas}
      style={{ position: "absolute", inset: 0 }}
      onPointerDownCapture={(e) => picking.press(e.clientX, e.clientY)}
      onPointerMove={draw}
      // an entry that waits for a name keeps the focus
      onMouseDownCapture={(e) => writing.entry && e.preventDefault()}
      data-testid="scene"
    >
      <Canvas
        flat
        frameloop="demand"
        camera={{ fov: 28, near: 1, far: 60000, up: [0, 0, 1], position: [900, -1400, 900] }}
        dpr={[1, 2]}
        gl={{ antialias: true, preserveDrawingBuffer: true, stencil: true }}
        onCreated={({ gl }) => {
          gl.localClippingEnabled = true;
        }}
        onPointerMissed={(e) => picking.miss(e.clientX, e.clientY)}
      >
        <ambientLight intensity={1.5} />
        <directionalLight position={[0.45, -1, 1.2]} intensity={1.5} />
        <directionalLight position={[-1, 0.4, 0.3]} intensity={0.45} />
        <Solids parts={parts} plane={plane} shiftOf={shiftOf} onPick={picking.pick} onMove={picking.move} onTake={onTake} />
        {view.draft?.kind !== "outline" && <Hardware plane={plane} shiftOf={shiftOf} />}
        {view.draft?.kind === "place" && <GhostBoard />}
        {view.draft?.kind === "place" && !parts.length && <Ground />}
        {view.moving && <AxisLine parts={parts} />}
        {view.draft?.kind !== "outline" && <FrameLines />}
        <GripStage />
        <PulledOutline />
        <FeatureLines />
        <SizeLineDrawing />
        <View parts={parts} keep={camera} />
        {view.draft?.kind === "outline" && <FaceCamera />}
        <OrbitControls makeDefault enableDamping={false} />
      </Canvas>
      {view.tool === "" && view.step === null && !view.moving && !view.unfolding && !view.apart && !view.draft && (
        <>
          <FlangeGrips />
          <PartPulls />
          <FeaturePoint />
        </>
      )}
      {view.draft?.kind === "outline" && <Sheet />}
      {view.moving && <Struck />}
      {view.draft?.kind === "place" && <GhostNames />}
      {view.draft?.kind !== "outline" && <FramePoints />}
      {view.station === "sizes" && view.tool === "" && <SizeLineTags />}
      {(view.tool === "loop" || view.tool === "box") && (
        <LoopTool shape={view.tool} onDone={(polygon, { more }) => loop(polygon, more)} />
      )}
      {picking.under && picking.under.hits.length > 1 && !view.moving && box && view.tool === "" && picked && (
        <UnderPointer under={picking.under} box={box} name={name} onChoose={picking.take} />
      )}
      {picking.under &&
        box &&
        !view.moving &&
        view.tool === "" &&
        picked &&
        !writing.entry &&
        view.selection?.kind === "part" && <FaceActs under={picking.under} parts={parts} box={box} />}
      <Hint parts={parts} name={name} />
    </div>
  );
}

/** What the pointer is on, or what can be done now. */
function Hint({ parts, name }: { parts: PartOut[]; name: (key: string) => string }) {
  const { doc } = useShown() ?? {};
  const view = useView();
  const writing = useWriting();
  const says = () => {
    if (writing.entry) {
      if (writing.why) return writing.why;
      if (!writing.over || !doc) return "Press a face to write its name where you type.";
      return `Press to write ${faceNamed(doc, writing.over.part, writing.over.face).name}.`;
    }
    if (view.draft?.kind === "line") return "Tubes run along an axis, or to what is pressed. Escape puts the pencil away.";
    if (view.draft?.kind === "outline")
      return "Wheel to come nearer, the right button shifts the sheet. Escape lets go, and then leaves the drawing.";
    if (view.draft?.kind === "place")
      return parts.length
        ? "Point at a face that the board comes before, and press to place it."
        : "Press where one corner of the board is, then where the other is.";
    if (view.station === "sizes" && !view.hover)
      return "Pull a size's line at its end to try values; letting go keeps the last one.";
    if (view.tool === "loop" || view.tool === "box")
      return "Draw round what you want: parts that lie wholly inside are taken, or holes where no part does.";
    if (view.hover) return name(view.hover);
    if (view.moving) return "What moves is pulled as far as it goes; what it strikes is told.";
    return "Pull to turn, pull with the right button to shift, scroll to come nearer. Press again for what lies behind.";
  };
  return <div className="hint">{says()}</div>;
}

type Shift = [number, number, number];

/** How far each part stands from its place: while it is put together, or while all are drawn apart; null for what is not there yet. */
function useShifts(parts: PartOut[]): (p: PartOut) => Shift | null {
  const view = useView();
  const assembly = useAssembly(view.step !== null);
  const middle = useMemo(() => centreOf(parts), [parts]);
  return (p) => {
    if (assembly && view.step !== null) return shiftAt(assembly, p.key, view.step);
    if (!view.apart || !p.low || !p.high) return HOME;
    return [0, 1, 2].map((i) => ((p.low![i] + p.high![i]) / 2 - middle[i]) * view.apart * 1.4) as Shift;
  };
}

type SolidsProps = {
  parts: PartOut[];
  plane: THREE.Plane | null;
  shiftOf: (p: PartOut) => Shift | null;
  onPick: (e: ThreeEvent<MouseEvent>) => void;
  onMove: (e: ThreeEvent<PointerEvent>) => void;
  /** takes a piece in hand that moves */
  onTake: ((e: ThreeEvent<PointerEvent>, piece: string) => void) | undefined;
};

/** Every part in its place, and what a section cuts of it. */
function Solids({ parts, plane, shiftOf, onPick, onMove, onTake }: SolidsProps) {
  const shown = useShown();
  const view = useView();
  const paper = usePaper();
  const over = useWriting((s) => s.over);
  const lit = new Set(lightOf(view.selection, shown?.built, shown?.doc));
  // what is being pulled is lit while it grows, as a ghost where it cannot be
  const pulled = view.pull?.owner ?? "";
  const owners = pulled ? [pulled, pulled.replace("flange:", "bend:")].join("|") : ownersOf(view.selection).join("|");
  const ghost = pulled !== "" && impossible(...owners.split("|")) !== "";
  // a bar's section lies nowhere in the design
  const nowhere = view.draft?.kind === "outline" && isOf(view.draft.part, "stock");
  return (
    <>
      {view.moving && <Poser />}
      {parts.flatMap((p) => {
        const shift = shiftOf(p);
        // a hinge's leaves move against one another
        const leaves = view.moving && solidData(p.solid)?.leaf ? [0, 1] : [undefined];
        return leaves.map((leaf) => (
          <PartSolid
            key={leaf ? `${p.key}~b` : p.key}
            part={p}
            leaf={leaf}
            onTake={onTake}
            x={shift ? shift[0] : Number.NaN}
            y={shift ? shift[1] : 0}
            z={shift ? shift[2] : 0}
            tint={shown ? lookOf(shown.doc, p.stock).tint : "#cccccc"}
            lit={lit.has(p.key) && view.draft?.kind !== "outline"}
            hover={view.hover === p.key}
            hidden={Boolean(view.hidden[p.key]) || nowhere}
            glass={Boolean(view.glass[p.key]) || (view.draft?.kind === "outline" && view.draft.part !== p.key)}
            owners={owners}
            ghost={ghost && view.pull?.part === p.key}
            face={
              over?.part === p.key
                ? over.face
                : view.selection?.kind === "part" && view.selection.key === p.key
                  ? view.selection.face
                  : undefined
            }
            plane={plane}
            paper={paper}
            onPick={onPick}
            onMove={onMove}
          />
        ));
      })}
      {plane &&
        parts.map((p, i) => {
          const shift = shiftOf(p);
          const look = shown && lookOf(shown.doc, p.stock);
          if (!shift || view.hidden[p.key] || view.glass[p.key]) return null;
          return (
            <Cap
              key={`cap ${p.key}`}
              part={p}
              shift={shift}
              plane={plane}
              tint={lit.has(p.key) ? paper.marker : (look?.tint ?? "#cccccc")}
              hatch={look?.hatch ?? "board"}
              ink={paper.ink}
              order={i}
            />
          );
        })}
      {view.tool === "measure" && <MeasureLine ink={paper.cut} />}
    </>
  );
}

/** A folded part's bends in the order in which they are done, as one string. */
function bendOrder(part: PartOut): string {
  return (flatData(part.flat)?.bends ?? []).map((b) => b.owner).join("|");
}

const HOME: [number, number, number] = [0, 0, 0];

type SolidProps = {
  part: PartOut;
  /** one of its two leaves alone */
  leaf?: number;
  onTake: SolidsProps["onTake"];
  x: number;
  y: number;
  z: number;
  tint: string;
  lit: boolean;
  hover: boolean;
  hidden: boolean;
  glass: boolean;
  owners: string;
  ghost: boolean;
  face?: string;
  plane: THREE.Plane | null;
  paper: ReturnType<typeof usePaper>;
  onPick: (e: ThreeEvent<MouseEvent>) => void;
  onMove: (e: ThreeEvent<PointerEvent>) => void;
};

const PartSolid = memo(function PartSolid(props: SolidProps) {
  const { part, leaf, onTake, x, y, z, tint, lit, hover, hidden, glass, owners, ghost, face, plane, paper, onPick, onMove } =
    props;
  const point = useView((s) => s.point);
  const invalidate = useThree((s) => s.invalidate);
  const data = solidData(part.solid);
  const whole = useMemo(
    () => (!data ? null : leaf === undefined ? solidGeometry(part.solid, data) : leafGeometry(part.solid, data, leaf)),
    [part.solid, data, leaf],
  );
  const piece = leaf ? `${part.key}~b` : part.key;
  const kept = useCallback((group: THREE.Group | null) => keepGroup(piece, group), [piece]);
  const unfolding = useView((s) => (data?.skin ? s.unfolding : null));
  const order = bendOrder(part);
  const folded = useMemo(
    () =>
      data?.skin && unfolding && (unfolding.mode === "each" || unfolding.share < 1)
        ? foldedGeometry(data, data.skin, sharesOf(data.skin, unfolding, order.split("|")))
        : null,
    [data, unfolding, order],
  );
  useEffect(
    () => () => {
      folded?.faces.dispose();
      folded?.edges.dispose();
      folded?.lines?.dispose();
      folded?.darts?.dispose();
    },
    [folded],
  );
  const solid = folded ?? whole;
  const matrix = useMemo(
    () => new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>)),
    [part.matrix],
  );
  // the frame of a board that faces the front turns its faces inside out; three.js reads that off the matrix itself
  const wanted = owners || (face ? faceOwner(part, face) : "");
  const owned = useMemo(() => (solid && wanted ? ownedGeometry(solid, wanted.split("|")) : null), [solid, wanted]);
  const clipping = useMemo(() => (plane ? [plane] : []), [plane]);
  useEffect(() => () => owned?.dispose(), [owned]);
  useEffect(() => invalidate());
  if (!solid || hidden || Number.isNaN(x)) return null;
  const colour = lit ? paper.marker : tint;
  return (
    <group position={[x, y, z]} ref={kept}>
      <group matrix={matrix} matrixAutoUpdate={false}>
        <mesh
          geometry={solid.faces}
          userData={{ part: part.key }}
          onClick={onPick}
          onPointerDown={onTake ? (e) => onTake(e, piece) : undefined}
          renderOrder={glass ? 2 : 0}
          onPointerMove={(e) => {
            e.stopPropagation();
            point(part.key);
            onMove(e);
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
            clippingPlanes={clipping}
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        </mesh>
        <lineSegments geometry={solid.edges} raycast={() => null}>
          <lineBasicMaterial color={paper.ink} transparent opacity={glass ? 0.45 : 0.85} clippingPlanes={clipping} />
        </lineSegments>
        {solid.darts && !glass && (
          <mesh geometry={solid.darts} raycast={() => null}>
            <meshLambertMaterial color={colour} side={THREE.DoubleSide} clippingPlanes={clipping} />
          </mesh>
        )}
        {solid.lines && !glass && (
          <lineSegments geometry={solid.lines} raycast={() => null}>
            <lineBasicMaterial color={paper.ink} transparent opacity={0.28} clippingPlanes={clipping} />
          </lineSegments>
        )}
        {owned && (
          <mesh geometry={owned} raycast={() => null} renderOrder={3}>
            <meshBasicMaterial
              key={ghost ? "ghost" : "lit"}
              transparent={ghost}
              opacity={ghost ? 0.35 : 1}
              color={/^(joint|flange)/.test(owners) ? paper.joint : owners ? paper.cut : paper.marker}
              side={THREE.DoubleSide}
              clippingPlanes={clipping}
              polygonOffset
              polygonOffsetFactor={-1}
              polygonOffsetUnits={-1}
            />
          </mesh>
        )}
      </group>
    </group>
  );
});

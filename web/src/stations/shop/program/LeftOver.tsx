// What a router leaves of a sheet, in the room, and a list of where that is not the part.
import { OrbitControls } from "@react-three/drei";
import { Canvas } from "@react-three/fiber";
import { useMemo, useState } from "react";
import * as THREE from "three";
import type { MaterialOut, ProgramOut } from "../../../api/types";
import { type Display, lookOf } from "../../../lib/document";
import { length, smallArea } from "../../../lib/figures";
import { useShown } from "../../../state/design";
import { useMaterial } from "../../../state/program";
import { usePaper } from "../../build/usePaper";

const WHERE: { [where: string]: string } = {
  pocket: "in a pocket",
  opening: "in an opening",
  hole: "in a hole that is left to the drill",
  part: "into it",
};

/** A ring of x, y after one another. */
function path(ring: number[]): THREE.Vector2[] {
  return Array.from({ length: ring.length / 2 }, (_, k) => new THREE.Vector2(ring[2 * k], ring[2 * k + 1]));
}

/** Areas as a body between two heights. */
function body(areas: number[][][], low: number, high: number): THREE.ExtrudeGeometry {
  const shapes = areas.map(([outer, ...holes]) => {
    const shape = new THREE.Shape(path(outer));
    shape.holes = holes.map((h) => new THREE.Path(path(h)));
    return shape;
  });
  const made = new THREE.ExtrudeGeometry(shapes, { depth: high - low, bevelEnabled: false, curveSegments: 1 });
  made.translate(0, 0, low);
  return made;
}

/** Darker the deeper it lies. */
const shade = (tint: string, deep: number) => new THREE.Color(tint).multiplyScalar(1 - 0.45 * deep);

export function LeftOver({ program, nests }: { program: ProgramOut; nests: string }) {
  const { doc } = useShown()!;
  const { material, fault } = useMaterial(program, nests, true);
  const [chosen, setChosen] = useState(-1);
  if (fault)
    return (
      <div className="empty" role="alert">
        {fault}
      </div>
    );
  if (!material) return <div className="empty">Working out what is left…</div>;
  const middle = [program.length / 2, program.width / 2];
  // so far away that the whole sheet is seen
  const far = Math.max(program.length, program.width) * 1.85;
  return (
    <div className="leftover">
      <div className="dryrunsheet" data-testid="left over" data-slabs={material.slabs.length}>
        <Canvas
          frameloop="demand"
          flat
          camera={{ position: [middle[0], middle[1] - far * 0.62, far], up: [0, 0, 1], near: 1, far: 50_000, fov: 35 }}
        >
          <ambientLight intensity={1.5} />
          <directionalLight position={[-600, -900, 1500]} intensity={1.7} />
          <Slabs material={material} tint={lookOf(doc, program.stock).tint} chosen={chosen} />
          <OrbitControls makeDefault target={[middle[0], middle[1], 0]} enableDamping={false} />
        </Canvas>
      </div>
      <Differences material={material} display={doc.display} chosen={chosen} onChoose={setChosen} />
    </div>
  );
}

function Slabs({ material, tint, chosen }: { material: MaterialOut; tint: string; chosen: number }) {
  const { thickness } = material;
  const paper = usePaper();
  const slabs = useMemo(
    () => material.slabs.map((s) => body(s.areas, thickness - s.bottom, thickness - s.top)),
    [material, thickness],
  );
  const edges = useMemo(() => slabs.map((g) => new THREE.EdgesGeometry(g, 30)), [slabs]);
  const places = useMemo(
    () => material.differences.map((d) => body(d.shape, thickness - Math.max(d.mm, 1), thickness + 0.3)),
    [material, thickness],
  );
  return (
    <>
      {slabs.map((geometry, k) => (
        <group key={material.slabs[k].top}>
          <mesh geometry={geometry}>
            <meshStandardMaterial color={shade(tint, material.slabs[k].top / thickness)} roughness={0.95} />
          </mesh>
          <lineSegments geometry={edges[k]}>
            <lineBasicMaterial color={paper.ink} transparent opacity={0.55} />
          </lineSegments>
        </group>
      ))}
      {places.map((geometry, k) => {
        const d = material.differences[k];
        return (
          <group key={`${d.key}${d.copy}${d.x},${d.y},${d.where}`}>
            <mesh geometry={geometry}>
              <meshStandardMaterial color={d.kind === "gouge" ? paper.cut : paper.mark} />
            </mesh>
            {k === chosen && (
              <mesh position={[d.x, d.y, thickness + 22]} rotation={[-Math.PI / 2, 0, 0]}>
                <coneGeometry args={[9, 40, 24]} />
                <meshStandardMaterial color={paper.marker} />
              </mesh>
            )}
          </group>
        );
      })}
    </>
  );
}

type ListProps = { material: MaterialOut; display: Display; chosen: number; onChoose: (k: number) => void };

function Differences({ material, display, chosen, onChoose }: ListProps) {
  const found = material.differences;
  return (
    <aside className="dryruntakes" aria-label="Where it is not the part">
      <h3>Against the parts</h3>
      {!found.length && <p className="good">What is left is the parts: nothing of them is cut away, nothing is left in them.</p>}
      <ol className="pieces">
        {found.map((d, k) => (
          <li key={`${d.key}${d.copy}${d.x},${d.y},${d.where}`}>
            <button
              type="button"
              className="plainbutton"
              aria-pressed={k === chosen}
              onClick={() => onChoose(k === chosen ? -1 : k)}
            >
              <b className={d.kind === "gouge" ? "error" : undefined}>
                {d.kind === "gouge" ? "Cut away" : "Left"} {length(d.mm, display)}
              </b>{" "}
              {WHERE[d.where]} of {d.part}
              {d.code ? `, no. ${d.code}` : ""}
              <div className="soft mono">
                {smallArea(d.area, display)} at {length(d.x, display)}, {length(d.y, display)}
              </div>
            </button>
          </li>
        ))}
      </ol>
      <p className="soft">
        Tabs, skins and what lies round the parts stay with the sheet. Slopes count as far as they surely go.
      </p>
    </aside>
  );
}

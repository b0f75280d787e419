// The lines along which sizes govern, drawn in the picture; each is pulled at its end, and its size takes the value that the hand gives it.
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import * as THREE from "three";
import type { SizeLinesOut } from "../../api/types";
import { pointer } from "../../lib/document";
import { length, value } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { usePulling } from "../../state/pulling";
import { words } from "../../state/shape";
import { useSizeLines } from "../../state/sizeLines";
import { useView } from "../../state/view";
import { PullGrip } from "./PullGrip";
import { keepPlace } from "./stage";
import { usePaper } from "./usePaper";

/** A line stands off what it measures by this share of the design, and every further one by as much again. */
const OFF = 0.06;
/** From this share of the design's own extent a line stands outside of all of it. */
const LONG = 0.3;
/** Half a mark across a line's end, as a share of how far it stands off. */
const ACROSS = 0.2;
/** Shorter than this share of the design, a line has no room for its name. */
const SHORT = 0.15;

type Line = {
  name: string;
  size: string;
  pull: SizeLinesOut["pull"];
  fresh: boolean;
  /** the ends of what is measured, and of the line that stands off it */
  from: THREE.Vector3;
  to: THREE.Vector3;
  start: THREE.Vector3;
  end: THREE.Vector3;
  way: THREE.Vector3;
  /** so short that its name stands beside it */
  short: boolean;
  /** half of the mark across each end */
  across: THREE.Vector3;
  chosen: boolean;
};

const long = (line: { start: number[]; end: number[] }) => place(line.start).distanceTo(place(line.end));
const place = (at: number[]) => new THREE.Vector3(at[0], at[1], at[2]);

/** What is drawn: all lines of the selected size; where none is selected one line of each. */
function useLines(): Line[] {
  const { lines: found, fresh } = useSizeLines();
  const selection = useView((s) => s.selection);
  const station = useView((s) => s.station);
  const shown = useShown();
  const pulling = usePulling();
  const head = useDesign((s) => s.head);
  if (!shown || !head || station !== "sizes") return [];
  const chosen = selection?.kind === "size" ? selection.key : "";
  const parts = head.parts.filter((p) => p.low && p.high);
  const low = [0, 1, 2].map((i) => Math.min(...parts.map((p) => p.low![i])));
  const high = [0, 1, 2].map((i) => Math.max(...parts.map((p) => p.high![i])));
  const off = OFF * Math.hypot(...high.map((x, i) => x - low[i]));
  const whole = off / OFF;
  const stacked = new Map<string, number>();
  // the longest stand farthest out, as on a drawing
  const some = found
    .filter((s) => s.lines.length && (!chosen || s.size === chosen))
    .flatMap((s) => (chosen ? s.lines : s.lines.slice(0, 1)).map((line, i) => ({ ...s, line, i })))
    .sort((a, b) => long(a.line) - long(b.line));
  return some.map(({ size, pull, line, i }) => {
    const way = place(line.end).sub(place(line.start)).normalize();
    const from = atEdge(place(line.start), way, long(line), low, high);
    const now = shown.built.values[pointer("sizes", size, "entry")]?.value ?? pull?.value ?? from.distanceTo(place(line.end));
    const own = pulling.pull && pulling.pull === pull;
    const to = from.clone().addScaledVector(way, own ? pulling.value : Math.abs(now));
    const out = outward(from, way, low, high);
    const side = `${out.toArray()} ${way.toArray().map((x) => Math.round(Math.abs(x)))}`;
    const rank = out.lengthSq() ? (stacked.get(side) ?? 0) + 1 : 0;
    stacked.set(side, rank);
    const by = out.clone().multiplyScalar(off * rank);
    return {
      name: `${size} ${i}`,
      size,
      pull,
      fresh,
      from,
      to,
      start: from.clone().add(by),
      end: to.clone().add(by),
      way,
      short: from.distanceTo(to) < whole * SHORT,
      across: (out.lengthSq() ? out.clone() : square(way)).multiplyScalar(off * ACROSS),
      chosen: size === chosen,
    };
  });
}

/** Where a long line along an axis is drawn: at the edge of all that faces the corner view, wherever within it is as long. */
function atEdge(from: THREE.Vector3, way: THREE.Vector3, long: number, low: number[], high: number[]): THREE.Vector3 {
  const axis = way.toArray().findIndex((x) => Math.abs(x) > 0.9999);
  if (axis < 0 || long < LONG * (high[axis] - low[axis])) return from;
  const edge = axis === 1 ? new THREE.Vector3(high[0], 0, low[2]) : new THREE.Vector3(low[0], low[1], low[2]);
  return edge.setComponent(axis, from.getComponent(axis));
}

/** A way square to another. */
function square(way: THREE.Vector3): THREE.Vector3 {
  const up = Math.abs(way.z) > 0.7 ? new THREE.Vector3(1, 0, 0) : new THREE.Vector3(0, 0, 1);
  return up.cross(way).normalize();
}

/** Where to a line stands off: away from the design below it, or beside it where it runs upward; nowhere from within. */
function outward(from: THREE.Vector3, way: THREE.Vector3, low: number[], high: number[]): THREE.Vector3 {
  const near = (a: number, b: number) => Math.abs(a - b) < 1;
  if (Math.abs(way.z) > 0.7) {
    if (near(from.x, high[0])) return new THREE.Vector3(1, 0, 0);
    return near(from.x, low[0]) ? new THREE.Vector3(-1, 0, 0) : new THREE.Vector3();
  }
  if (near(from.z, low[2])) return new THREE.Vector3(0, 0, -1);
  return near(from.z, high[2]) ? new THREE.Vector3(0, 0, 1) : new THREE.Vector3();
}

/** The lines themselves, before everything: from what they measure outward, along it, and a mark across each end. */
export function SizeLineDrawing() {
  const lines = useLines();
  const paper = usePaper();
  const redraw = useThree((s) => s.invalidate);
  useEffect(() => redraw());
  return lines.map((line) => <Drawn key={line.name} line={line} color={line.chosen ? paper.joint : paper.ink} />);
}

function Drawn({ line, color }: { line: Line; color: string }) {
  const { from, to, start, end, across } = line;
  const key = [from, to, start, end].flatMap((p) => p.toArray().map((x) => x.toFixed(3))).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key is all of it
  const geometry = useMemo(() => {
    const points = [from, start, to, end, start, end];
    for (const p of [start, end]) points.push(p.clone().add(across), p.clone().sub(across));
    return new THREE.BufferGeometry().setFromPoints(points);
  }, [key]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <lineSegments geometry={geometry} raycast={() => null} renderOrder={7}>
      <lineBasicMaterial color={color} depthTest={false} transparent opacity={line.chosen ? 1 : 0.7} />
    </lineSegments>
  );
}

/** The names of the sizes on their lines, and the points to pull them by. */
export function SizeLineTags() {
  const lines = useLines();
  const shown = useShown();
  const pulling = usePulling();
  const select = useView((s) => s.select);
  if (!shown) return null;
  const { doc, built } = shown;
  return lines.map((line) => {
    const name = words(doc.sizes[line.size]?.name ?? line.size);
    const found = built.values[pointer("sizes", line.size, "entry")];
    const own = pulling.pull !== null && pulling.pull === line.pull;
    const worth = own ? length(pulling.value, doc.display) : found ? value(found, doc.display) : "";
    const middle = line.start.clone().lerp(line.end, 0.5);
    return (
      <div key={line.name}>
        <div
          className="gripplace"
          ref={(element) =>
            keepPlace(`size ${line.name}`, element, middle, line.chosen ? {} : { rank: line.start.distanceTo(line.end) })
          }
        >
          <button
            type="button"
            className="sizetag"
            data-short={line.short}
            data-on={line.chosen}
            onClick={() => select({ kind: "size", key: line.size })}
            aria-label={`Size ${name}, ${worth}`}
          >
            {name} <span className="figure">{worth}</span>
          </button>
        </div>
        {line.pull && (
          <PullGrip
            name={`size pull ${line.name}`}
            beside={`size ${line.name}`}
            part={`size ${line.name}`}
            pull={line.pull}
            fresh={line.fresh}
            what={`${name} (${line.pull.follow} follow)`}
            worth={worth}
            says=""
            stands={line.start.clone().addScaledVector(line.way, line.pull.value)}
            at={line.end}
            way={line.way}
          />
        )}
      </div>
    );
  });
}

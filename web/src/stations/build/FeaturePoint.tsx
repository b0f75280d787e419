// The point to drag a selected feature by on its face, and how far it is from what lies about it; each distance can be typed.
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import * as THREE from "three";
import type { FeaturePullsOut, PartOut } from "../../api/types";
import { distances } from "../../lib/dragged";
import { length } from "../../lib/figures";
import { distanceOf } from "../../lib/ghost";
import { useDesign } from "../../state/design";
import { useDragging, useFeaturePulls } from "../../state/dragging";
import { usePulling } from "../../state/pulling";
import { words } from "../../state/shape";
import { useView } from "../../state/view";
import { saidOf } from "./PartPulls";
import { PullGrip } from "./PullGrip";
import { alongLine, invalidate, keepPlace, scaleAt, turning } from "./stage";
import { usePaper } from "./usePaper";

type At = [number, number, number];
const WAYS = ["u", "v"];
/** So many pixels from the point a figure stands clear of it, along u and along v. */
const CLEAR = [46, 24];

type Found = { part: PartOut; key: string; pulls: FeaturePullsOut; fresh: boolean };

/** The selected feature of an original, with its part. */
function useFeature(): Found | null {
  const selection = useView((s) => s.selection);
  const head = useDesign((s) => s.head);
  const [of, key] = selection?.kind === "feature" ? [selection.part, selection.key] : ["", ""];
  const part = head?.parts.find((p) => p.key === of);
  const { pulls, fresh } = useFeaturePulls(part ? of : "", key);
  return part && pulls ? { part, key, pulls, fresh } : null;
}

/** Where it is now, in its part's own measures. */
function placeNow(pulls: FeaturePullsOut, now: { value: number }[]): At {
  const at = [...pulls.at] as At;
  pulls.pulls.forEach((p, i) => {
    at[WAYS.indexOf(p.way)] = now[i]?.value ?? p.value;
  });
  return at;
}

const inRoom = (part: PartOut, at: At) =>
  new THREE.Vector3(...at).applyMatrix4(new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>)));

/** The way of u or v in the room. */
const wayOf = (part: PartOut, i: number) =>
  inRoom(part, [Number(i === 0), Number(i === 1), 0])
    .sub(inRoom(part, [0, 0, 0]))
    .normalize();

export function FeaturePoint() {
  const found = useFeature();
  const dragging = useDragging();
  const display = useDesign((s) => s.doc?.display ?? "mm");
  const start = useRef<[number, number]>([0, 0]);
  if (!found) return null;
  const { part, key, pulls, fresh } = found;
  const own = dragging.pulls === pulls;
  const at = placeNow(pulls, own ? dragging.now : []);
  const stands = inRoom(part, pulls.at as At);
  const where = (x: number, y: number): [number, number] =>
    [0, 1].map((i) => alongLine(stands, wayOf(part, i), x, y)) as [number, number];
  const name = `${words(part.path)}, ${words(key)}`;
  const says = own
    ? dragging.now
        .map((d) => d.caught)
        .filter(Boolean)
        .join(", ")
    : "";
  const spoken = pulls.pulls.map((p) =>
    distances(p, at[WAYS.indexOf(p.way)])
      .map((d) => `${length(d.mm, display)} ${d.words}`)
      .join(", "),
  );
  return (
    <>
      <div className="gripplace" ref={(element) => keepPlace(`feature ${part.key} ${key}`, element, inRoom(part, at))}>
        <button
          type="button"
          className="grip pull"
          aria-label={`Drag ${name}`}
          aria-description={spoken.join("; ")}
          title={`Drag ${name}`}
          onPointerDown={(e) => {
            e.stopPropagation();
            if (!fresh) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            turning(false);
            start.current = where(e.clientX, e.clientY);
            dragging.begin(name, pulls);
          }}
          onPointerMove={(e) => {
            if (!own) return;
            const [u, v] = where(e.clientX, e.clientY);
            dragging.to(u - start.current[0], v - start.current[1], scaleAt(stands), e.shiftKey);
            invalidate();
          }}
          onPointerUp={() => {
            turning(true);
            if (own) void dragging.settle();
          }}
          onPointerCancel={() => {
            turning(true);
            dragging.leave();
          }}
          onKeyDown={(e) => {
            const way = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
            if (!way && !(own && ["Enter", "Escape"].includes(e.key))) return;
            e.preventDefault();
            e.stopPropagation();
            if (!fresh) return;
            if (!own) dragging.begin(name, pulls);
            const step = e.shiftKey ? 10 : 1;
            if (way) dragging.to(at[0] - pulls.at[0] + way[0] * step, at[1] - pulls.at[1] + way[1] * step, 0, false);
            else if (e.key === "Enter") void dragging.settle();
            else dragging.leave();
            invalidate();
          }}
          onBlur={() => {
            if (own) dragging.leave();
          }}
        />
        {says && <span className="gripsays figure">{says}</span>}
      </div>
      {!own && pulls.extents.map((extent) => <ExtentGrip key={extent.pull.face} found={found} name={name} extent={extent} />)}
      {pulls.pulls.flatMap((pull) => {
        const i = WAYS.indexOf(pull.way);
        return distances(pull, at[i]).map((d) => {
          const half = [...at] as At;
          // in the middle of its line, clear of the point
          const clear = CLEAR[i] * scaleAt(stands);
          half[i] = at[i] + Math.sign(d.value - at[i] || 1) * Math.max(Math.abs(d.value - at[i]) / 2, clear);
          return (
            <Distance
              key={`${pull.way} ${d.words}`}
              label={`${name}: distance to ${d.words.replace("in line with ", "")}`}
              mm={d.mm}
              at={inRoom(part, half)}
              onType={(mm) => {
                dragging.begin(name, pulls);
                void useDragging.getState().place(pull.way, d.value + Math.sign(at[i] - d.value || 1) * mm);
              }}
            />
          );
        });
      })}
    </>
  );
}

/** A feature's measure across its middle, pulled at its side: it grows to both. */
function ExtentGrip({ found, name, extent }: { found: Found; name: string; extent: FeaturePullsOut["extents"][number] }) {
  const pulling = usePulling();
  const display = useDesign((s) => s.doc?.display ?? "mm");
  const { part, pulls, fresh } = found;
  const { pull } = extent;
  const own = pulling.pull === pull;
  const side = (value: number) =>
    inRoom(part, [pulls.at[0] + (extent.way[0] * value) / 2, pulls.at[1] + (extent.way[1] * value) / 2, pulls.at[2]]);
  const stands = side(pull.value);
  return (
    <PullGrip
      name={`extent ${part.key} ${found.key} ${pull.face}`}
      part={part.key}
      pull={pull}
      fresh={fresh}
      what={pull.size ? `${words(pull.size)} (${pull.follow} follow)` : `${pull.face} of ${name}`}
      worth={length(pull.value, display)}
      says={own && pulling.text ? saidOf(pull, pulling, display) : ""}
      stands={stands}
      at={side(own ? pulling.value : pull.value)}
      way={stands
        .clone()
        .sub(inRoom(part, pulls.at as At))
        .normalize()}
      rate={2}
    />
  );
}

/** One distance, in the middle of its line; pressed, it takes another figure. */
function Distance({ label, mm, at, onType }: { label: string; mm: number; at: THREE.Vector3; onType: (mm: number) => void }) {
  const doc = useDesign((s) => s.doc)!;
  const [typing, setTyping] = useState(false);
  return (
    <div className="gripplace" ref={(element) => keepPlace(label, element, at)}>
      {typing ? (
        <input
          autoFocus
          className="distance"
          aria-label={label}
          defaultValue={length(mm, doc.display)}
          onFocus={(e) => e.currentTarget.select()}
          onBlur={() => setTyping(false)}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === "Escape") setTyping(false);
            if (e.key !== "Enter") return;
            const typed = distanceOf(e.currentTarget.value, doc.unit);
            if (typed !== null) onType(typed);
            setTyping(false);
          }}
        />
      ) : (
        <button
          type="button"
          className="distance figure"
          title={`${label}: press to type`}
          aria-label={`${label}, ${length(mm, doc.display)}`}
          onClick={() => setTyping(true)}
        >
          {length(mm, doc.display)}
        </button>
      )}
    </div>
  );
}

/** The lines from a selected feature to what lies about it, in the picture. */
export function FeatureLines() {
  const found = useFeature();
  const dragging = useDragging();
  const paper = usePaper();
  const redraw = useThree((s) => s.invalidate);
  const geometry = useMemo(() => new THREE.BufferGeometry(), []);
  useEffect(() => () => geometry.dispose(), [geometry]);
  useEffect(() => redraw());
  if (!found) return null;
  const { part, pulls } = found;
  const at = placeNow(pulls, dragging.pulls === pulls ? dragging.now : []);
  const points = pulls.pulls.flatMap((pull) => {
    const i = WAYS.indexOf(pull.way);
    return distances(pull, at[i]).flatMap((d) => {
      const end = [...at] as At;
      end[i] = d.value;
      return [inRoom(part, at), inRoom(part, end)];
    });
  });
  geometry.setFromPoints(points);
  return (
    <lineSegments geometry={geometry} raycast={() => null} renderOrder={7}>
      <lineBasicMaterial color={paper.joint} depthTest={false} transparent opacity={0.8} />
    </lineSegments>
  );
}

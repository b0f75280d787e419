// Points to pull a selected part by: its ends and its place. The figure follows the hand, and catches on faces and sizes.
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import * as THREE from "three";
import type { PartOut, PullOut } from "../../api/types";
import { type Display, type Doc, sheetOf, within } from "../../lib/document";
import { length } from "../../lib/figures";
import { id, isOf, readOwner } from "../../lib/owner";
import { useDesign, useShown } from "../../state/design";
import { usePulling, usePulls } from "../../state/pulling";
import { words } from "../../state/shape";
import { useView } from "../../state/view";
import { PullGrip } from "./PullGrip";
import { usePaper } from "./usePaper";

const AXES = ["x", "y", "z"];

/** Where a pull's point stands: on the face that it moves, to the side of the middle where an edge has a grip of its own. */
function placeOf(part: Whole, pull: PullOut, value: number, aside: boolean): THREE.Vector3 {
  const k = AXES.indexOf(pull.axis);
  // a group's three points stand apart, each on its own side of the middle
  const share = (i: number) =>
    i === k ? 0.5 : pull.pointer.startsWith("/groups/") && i === (k + 1) % 3 ? 0.35 : aside ? 0.2 : 0.5;
  const at = [0, 1, 2].map((i) => (i === k ? value : part.low![i] + (part.high![i] - part.low![i]) * share(i)));
  return new THREE.Vector3(...(at as [number, number, number]));
}

/** What is pulled: an original, or a group as the box of its own parts. */
type Whole = Pick<PartOut, "key" | "path" | "stock" | "low" | "high">;

/** The box of a group's own parts, without its copies; null where it holds nothing. */
export function groupBox(parts: PartOut[], doc: Doc, key: string): Whole | null {
  const own = parts.filter(
    (p) => !p.made_by.length && p.low && p.high && within(doc, doc.parts[p.of]?.group ?? "").includes(key),
  );
  if (!own.length) return null;
  const end = (pick: "low" | "high", of: (...x: number[]) => number) => [0, 1, 2].map((i) => of(...own.map((p) => p[pick]![i])));
  const [low, high] = [end("low", Math.min), end("high", Math.max)];
  return { key: `group:${key}`, path: doc.groups[key]?.name ?? key, stock: "", low, high };
}

/** What can be pulled as a whole under a key: a part's, or a group's behind its mark. */
function wholeOf(key: string): Whole | null {
  const { head, doc } = useDesign.getState();
  if (!head || !doc) return null;
  if (isOf(key, "group")) return groupBox(head.parts, doc, readOwner(key).key);
  return head.parts.find((p) => p.key === key && !p.made_by.length && p.low && p.high) ?? null;
}

export function PartPulls() {
  useDesign((s) => s.head);
  const selection = useView((s) => s.selection);
  const group = selection?.kind === "group" ? selection.key : "";
  const part = selection?.kind === "part" ? selection.key : "";
  const whole = group ? wholeOf(id.group(group)) : part ? wholeOf(part) : null;
  const { pulls, fresh } = usePulls(whole && !group ? part : "", whole ? group : "");
  const flange = useView((s) => s.pull !== null);
  if (!whole || flange) return null;
  return pulls.map((pull) => <PullPoint key={`${whole.key} ${pull.axis} ${pull.face}`} part={whole} pull={pull} fresh={fresh} />);
}

function PullPoint({ part, pull, fresh }: { part: Whole; pull: PullOut; fresh: boolean }) {
  const shown = useShown();
  const pulling = usePulling();
  const own = pulling.pull === pull;
  // where an edge may have a flange, that one's grip has the middle
  const aside = Boolean(shown && sheetOf(shown.doc, part.stock)?.bends);
  const what = pull.size
    ? `${words(pull.size)} (${pull.follow} follow)`
    : `${words(part.path)}, ${pull.pointer.startsWith("/groups/") ? `along ${pull.axis}` : pull.face}`;
  const display = shown?.doc.display ?? "mm";
  return (
    <PullGrip
      name={`pull ${part.key} ${pull.axis} ${pull.face}`}
      part={part.key}
      pull={pull}
      fresh={fresh}
      what={what}
      worth={length(pull.value, display)}
      says={own && pulling.text ? saidOf(pull, pulling, display) : ""}
      stands={placeOf(part, pull, pull.value, aside)}
      at={placeOf(part, pull, own ? pulling.value : pull.value, aside)}
      way={new THREE.Vector3(...AXES.map((a) => Number(a === pull.axis)))}
    />
  );
}

/** What a pulled face comes to be: the name that it caught on or the entry, and what that is worth. */
export function saidOf(pull: PullOut, now: { value: number; text: string; barred: string }, display: Display): string {
  if (now.barred) return `${length(now.value, display)}: ${words(now.barred)}`;
  const worth = length(pull.size ? pull.constant + now.value - pull.value : now.value, display);
  if (pull.size) return `${words(pull.size)} ${pull.base ? now.text : worth}`;
  return /^-?[\d.]/.test(now.text) ? worth : `${now.text} = ${worth}`;
}

/** The outline of what is pulled, which follows the hand at once; the board itself follows when it is built. */
export function PulledOutline() {
  const { part: key, pull, value } = usePulling();
  const head = useDesign((s) => s.head);
  const paper = usePaper();
  const redraw = useThree((s) => s.invalidate);
  const edges = useMemo(() => new THREE.EdgesGeometry(new THREE.BoxGeometry(1, 1, 1)), []);
  useEffect(() => () => edges.dispose(), [edges]);
  useEffect(() => redraw());
  const part = head && pull ? wholeOf(key) : null;
  // what is pulled across a middle, or as a size's line, moves no face of the part
  if (!pull?.axis || !part?.low || !part.high) return null;
  const k = AXES.indexOf(pull.axis);
  const [low, high] = [[...part.low], [...part.high]];
  const by = value - pull.value;
  const pair = { x: ["left", "right"], y: ["front", "back"], z: ["bottom", "top"] }[pull.axis] ?? [];
  const placed = pull.pointer.endsWith("/at") || pull.pointer.includes("/at/");
  if (placed || pull.face === pair[0] || pull.face === "centre") low[k] += by;
  if (placed || pull.face === pair[1] || pull.face === "centre") high[k] += by;
  const size = low.map((x, i) => Math.max(high[i] - x, 0.01)) as [number, number, number];
  const middle = low.map((x, i) => (x + high[i]) / 2) as [number, number, number];
  return (
    <lineSegments geometry={edges} position={middle} scale={size} raycast={() => null} renderOrder={6}>
      <lineBasicMaterial color={paper.joint} depthTest={false} />
    </lineSegments>
  );
}

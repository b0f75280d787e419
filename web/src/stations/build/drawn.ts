// Where a line in hand comes to under the pointer: a place of a part, of the line that a tube lies on, or along an axis where there is nothing.
import type { ThreeEvent } from "@react-three/fiber";
import { Vector3 } from "three";
import type { PartOut } from "../../api/types";
import type { Vec } from "../../lib/ghost";
import { isOf } from "../../lib/owner";
import { useDesign } from "../../state/design";
import { type LineEnd, useDrawing } from "../../state/drawing";
import { useView } from "../../state/view";
import { alongAxes } from "./FrameLines";
import { onScreen, scaleAt } from "./stage";
import type { Hit } from "./usePicking";

/** The event of the pointer that has found something to end on; its listener is a passive one, which can prevent nothing. */
let taken: Event | null = null;

/** A line in hand comes to what the pointer is on; with Shift it stays on its axis. */
export function drawTo(event: ThreeEvent<MouseEvent>, hit: Hit | undefined, parts: PartOut[]): void {
  if (!hit || event.nativeEvent.shiftKey) return;
  taken = event.nativeEvent; // no axis is looked for then
  useDrawing.getState().point(onLine(hit) ?? onPart(hit, parts), scaleAt(hit.at));
}

function onPart(hit: Hit, parts: PartOut[]): LineEnd {
  const at: Vec = [hit.at.x, hit.at.y, hit.at.z];
  const name = (parts.find((p) => p.key === hit.key)?.path ?? "").replaceAll("_", " ");
  // on the wall of a hole its middle is meant
  if (isOf(hit.owner, "bore") || isOf(hit.owner, "feature"))
    return { spot: { at, part: hit.key, owner: hit.owner }, at, words: `in the middle of a hole of ${name}` };
  return { spot: { at, part: hit.key }, at, words: `on ${name}` };
}

/** The place on the line of a tube that is nearest to where it is hit; copies have none of their own. */
function onLine(hit: Hit): LineEnd | null {
  const { doc, head } = useDesign.getState();
  const record = doc?.parts[hit.key];
  if (record?.kind !== "member" || record.lines.length !== 1) return null;
  const frame = head?.frames?.find((f) => f.key === record.frame);
  const line = frame?.lines.find((x) => x.key === record.lines[0]);
  const [a, b] = [line?.a, line?.b].map((k) => frame?.points.find((p) => p.key === k)?.at);
  if (!a || !b) return null;
  const from = new Vector3(...(a as Vec));
  const way = new Vector3(...(b as Vec)).sub(from);
  const long = way.length();
  const off = Math.min(Math.max(hit.at.clone().sub(from).dot(way) / long, 0), long);
  const at = from.addScaledVector(way, off / long).toArray() as Vec;
  return { spot: { line: `${record.frame}:${record.lines[0]}`, off }, at, words: `on ${record.name.replaceAll("_", " ")}` };
}

/** A line in hand runs along an axis where the pointer is on nothing. */
export function draw(event: React.PointerEvent<HTMLElement>): void {
  if (event.buttons || event.nativeEvent === taken || !(event.target instanceof HTMLCanvasElement)) return;
  drawAlong(event.clientX, event.clientY);
}

/** The same for a place of the screen: a finger presses where it has not moved. */
function drawAlong(x: number, y: number): void {
  const { start, axis, point } = useDrawing.getState();
  if (useView.getState().draft?.kind !== "line" || !start) return;
  const found = alongAxes(start, axis, x, y, onScreen);
  if (found) point(found, scaleAt(new Vector3(...found.at)));
}

/** What is pressed is where the line begins or ends: what lies there, or along an axis where nothing does. */
export function pressTo(event: ThreeEvent<MouseEvent>, hit: Hit | undefined, parts: PartOut[]): void {
  drawTo(event, hit, parts);
  void useDrawing.getState().press();
}

export function pressAlong(x: number, y: number): void {
  drawAlong(x, y);
  void useDrawing.getState().press();
}

// What is drawn just now: what was pressed, and what the next press would make.

import { length } from "../../../lib/figures";
import { type Pair, type Sight, toScreen } from "../../../lib/plane";
import { useShown } from "../../../state/design";
import { draws, laysPicture, type OutlineTool, useOutline } from "../../../state/outline";
import { pathOf } from "./Curves";

export function InHand({ sight }: { sight: Sight }) {
  const { tool, presses, over } = useOutline();
  const display = useShown()?.doc.display ?? "mm";
  if (!draws(tool) && !laysPicture(tool)) return null;
  const at = over && !(laysPicture(tool) && presses.length > 1) ? [...presses, over] : presses;
  const places = at.map((p) => p.at);
  const run = ghostOf(tool, places);
  const last = over && toScreen(sight, over.at);
  const from = presses[presses.length - 1];
  const says = [
    over?.words,
    from && over && (tool === "line" || (tool === "slot" && presses.length === 1))
      ? length(Math.hypot(over.at[0] - from.at[0], over.at[1] - from.at[1]), display)
      : "",
    presses.length === 2 && over && tool === "slot"
      ? `${length(2 * offLine(presses[0].at, presses[1].at, over.at), display)} wide`
      : "",
    presses.length === 1 && over && (tool === "circle" || tool === "polygon")
      ? `⌀ ${length(2 * Math.hypot(over.at[0] - presses[0].at[0], over.at[1] - presses[0].at[1]), display)}`
      : "",
    presses.length === 1 && over && tool === "rectangle"
      ? `${length(Math.abs(over.at[0] - presses[0].at[0]), display)} × ${length(Math.abs(over.at[1] - presses[0].at[1]), display)}`
      : "",
  ].filter(Boolean);
  return (
    <g className="drawninhand" pointerEvents="none">
      {run.length > 1 && <path d={pathOf(sight, run)} />}
      {places.map((p) => {
        const [x, y] = toScreen(sight, p);
        return <circle key={p.join()} cx={x} cy={y} r={3} />;
      })}
      {last && over?.on && <rect x={last[0] - 6} y={last[1] - 6} width={12} height={12} />}
      {last && says.length > 0 && (
        <text x={last[0] + 12} y={last[1] - 10}>
          {says.join(" · ").replaceAll("_", " ")}
        </text>
      )}
    </g>
  );
}

/** The chords of what the pressed places make. */
function ghostOf(tool: OutlineTool, at: Pair[]): Pair[] {
  const [a, b, c] = at;
  if (!a || !b) return at;
  if (tool === "circle" || tool === "polygon") return ring(a, Math.hypot(b[0] - a[0], b[1] - a[1]));
  if (tool === "rectangle" || tool === "crop") return [a, [b[0], a[1]], b, [a[0], b[1]], a];
  if (tool === "arc_through" && c) return arcThrough(a, b, c);
  if (tool === "arc_centre" && c) {
    const [r, t, u] = [
      Math.hypot(b[0] - a[0], b[1] - a[1]),
      Math.atan2(b[1] - a[1], b[0] - a[0]),
      Math.atan2(c[1] - a[1], c[0] - a[0]),
    ];
    const sweep = ((u - t + 3 * Math.PI) % (2 * Math.PI)) - Math.PI;
    return turn(a, r, t, sweep);
  }
  if (tool === "slot" && c) {
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    const [ex, ey] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
    const r = offLine(a, b, c);
    const t = Math.atan2(ey, ex);
    return [...turn(b, r, t - Math.PI / 2, Math.PI), ...turn(a, r, t + Math.PI / 2, Math.PI), [b[0] + ey * r, b[1] - ex * r]];
  }
  return at;
}

/** How far a place lies off the line through two others. */
const offLine = (a: Pair, b: Pair, p: Pair): number =>
  Math.abs((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / (Math.hypot(b[0] - a[0], b[1] - a[1]) || 1);

const turn = ([x, y]: Pair, r: number, from: number, sweep: number): Pair[] =>
  Array.from({ length: 33 }, (_, i) => [x + r * Math.cos(from + (sweep * i) / 32), y + r * Math.sin(from + (sweep * i) / 32)]);
const ring = (c: Pair, r: number): Pair[] => turn(c, r, 0, 2 * Math.PI);

function arcThrough(a: Pair, b: Pair, m: Pair): Pair[] {
  const [ax, ay, bx, by] = [b[0] - a[0], b[1] - a[1], m[0] - a[0], m[1] - a[1]];
  const d = 2 * (ax * by - ay * bx);
  if (Math.abs(d) < 1e-6) return [a, m, b];
  const [s, t] = [ax * ax + ay * ay, bx * bx + by * by];
  const c: Pair = [a[0] + (by * s - ay * t) / d, a[1] + (ax * t - bx * s) / d];
  const from = Math.atan2(a[1] - c[1], a[0] - c[0]);
  const to = Math.atan2(b[1] - c[1], b[0] - c[0]);
  const left = (((to - from) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  // to the left where the third place lies to the right of the way between the others
  return turn(c, Math.hypot(a[0] - c[0], a[1] - c[1]), from, d < 0 ? left : left - 2 * Math.PI);
}

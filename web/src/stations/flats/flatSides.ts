// The two sides of a flat as they are drawn: which lines lie on top, which show through, what is dimensioned and measured from where.
import type { FlatOut, PartOut } from "../../api/types";
import { type Axis, FACES } from "../../lib/document";
import { figure } from "../../lib/figures";
import { useDrilling } from "../../state/drilling";
import type { BendLine, Rounds } from "./labels";

export type Contour = FlatOut["contours"][number];
export type MeasuredEdge = { word: string; x: number; y: number; turn: number };
export type Display = "mm" | "in" | "fraction";

/** Whether it is cut through along this line. */
export const through = (c: Contour) => c.operation === "inside" || c.operation === "outside";

/** What is drawn of the side that lies up, and of the other one as far as it shows through. */
export function sidesOf(flat: FlatOut, turned: boolean) {
  // turned over, the drawing lies mirrored left to right about its own middle, and the problems' places with it
  const flipped = (flat.seen === "b") !== turned;
  const side = turned ? flat.under : flat.contours;
  const outline = turned && !side.some(through) ? flat.contours.filter(through) : [];
  const contours = [...outline, ...side].sort((p, q) => p.depth - q.depth);
  // the other face's work shows through, dashed
  const hidden = (turned ? flat.contours : flat.under).filter(
    (c) => !through(c) && c.operation !== "note" && !c.operation.startsWith("bend"),
  );
  return { flipped, outline, contours, hidden };
}

/** The edges that the drilling list measures from, and from which faces it does in the edges. */
export function useMeasuredFrom(part: PartOut, flat: FlatOut, flipped: boolean) {
  const rows = useDrilling().filter((r) => r.key === part.key);
  const from = new Set(rows.flatMap((r) => [r.along_from, r.across_from]).map((words) => words.split(" ")[0]));
  const marked = referenceEdges(part, flat, flipped).filter((e) => from.has(e.word));
  const faces = [...new Set(rows.filter((r) => r.surface === "edge").map((r) => r.across_from))];
  return { marked, faces };
}

/** The radius that most bends of a part have; of equally many the smaller. */
export function usualRadius(bends: FlatOut["bends"]): number {
  const counted = new Map<number, number>();
  for (const b of bends) if (b.angle <= 175) counted.set(b.radius, (counted.get(b.radius) ?? 0) + 1);
  return [...counted].sort(([r, n], [s, m]) => m - n || r - s)[0]?.[0] ?? 0;
}

/** What is said of each bend at the end of its line: its step, how far it folds, and its radius where that is not the part's. */
export function bendTexts(bends: FlatOut["bends"], numbers: Map<string, number>, display: Display): BendLine[] {
  const usual = usualRadius(bends);
  return bends.map((b) => {
    const [bx0, by0, bx1, by1] = b.line;
    const hem = b.angle > 175;
    const own = hem ? " hem" : Math.abs(b.radius - usual) > 1e-4 ? ` r ${figure(b.radius, display)}` : "";
    const angle = `${Number(b.angle.toFixed(2))}°`;
    return { key: b.key, line: [bx0, -by0, bx1, -by1], step: `${numbers.get(b.key) ?? b.number}`, text: `${angle}${own}` };
  });
}

/** The round holes to be dimensioned, those of one owner and size by one label. */
export function holeGroups(of: Contour[], display: Display): Rounds[] {
  const groups = new Map<string, Rounds>();
  for (const c of of) {
    if (!c.circle || (c.operation !== "inside" && c.operation !== "drill")) continue;
    const [x, y, radius] = c.circle;
    const key = `${c.owners[0][0]} ${radius.toFixed(4)}`;
    const group = groups.get(key) ?? { key, places: [], radius, text: "" };
    group.places.push([x, -y]);
    groups.set(key, group);
  }
  const sized = (g: Rounds) => `⌀ ${figure(2 * g.radius, display)}`;
  return [...groups.values()].flatMap((g) =>
    g.places.length < 3
      ? g.places.map((at, i) => ({ ...g, key: `${g.key} ${i}`, places: [at], text: sized(g) }))
      : [{ ...g, text: `${g.places.length} × ${sized(g)}` }],
  );
}

/** The four edges as they lie, with the middle of each and the turn of a triangle that points at it from outside. */
function referenceEdges(part: PartOut, flat: FlatOut, flipped: boolean): MeasuredEdge[] {
  const [x0, y0, x1, y1] = flat.bounds;
  const [left, right] = FACES[part.u as Axis] ?? ["", ""];
  const [low, high] = FACES[part.v as Axis] ?? ["", ""];
  return [
    { word: flipped ? right : left, x: x0, y: -(y0 + y1) / 2 + (y1 - y0) * 0.2, turn: 90 },
    { word: flipped ? left : right, x: x1, y: -(y0 + y1) / 2 + (y1 - y0) * 0.2, turn: -90 },
    { word: low, x: (x0 + x1) / 2 + (x1 - x0) * 0.2, y: -y0, turn: 0 },
    { word: high, x: (x0 + x1) / 2 + (x1 - x0) * 0.2, y: -y1, turn: 180 },
  ];
}

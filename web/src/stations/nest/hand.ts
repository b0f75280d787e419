// Laying by hand: the nearest place in the room that the core gives, and arrangements as the document keeps them.
import type { LayoutOut, Patch, PlacedOut } from "../../api/types";
import { type Doc, pointer } from "../../lib/document";

export type Point = [number, number];
/** A piece of room: its ring and the rings of its holes, in mm. */
export type Piece = Point[][];
export type Laid = { part: string; number: number; x: number; y: number; angle: number; mirrored: boolean };

/** Names one laid piece of a stock. */
export const laidKey = (p: { part: string; number: number }) => `${p.part}#${p.number}`;

function within(p: Point, ring: Point[]): boolean {
  let odd = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [[ax, ay], [bx, by]] = [ring[i], ring[j]];
    if (ay > p[1] !== by > p[1] && p[0] < ax + ((p[1] - ay) * (bx - ax)) / (by - ay)) odd = !odd;
  }
  return odd;
}

function onSegment(p: Point, a: Point, b: Point): Point {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const square = dx * dx + dy * dy;
  const t = square ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / square)) : 0;
  return [a[0] + t * dx, a[1] + t * dy];
}

const far = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** The place in the room that is nearest to where the hand is: into a corner within `snap` mm, else where it is, else along the edge. */
export function nearest(room: Piece[], hand: Point, snap: number): Point | null {
  let corner: Point | null = null;
  let edge: Point | null = null;
  let inside = false;
  for (const piece of room) {
    inside ||= within(hand, piece[0]) && !piece.slice(1).some((hole) => within(hand, hole));
    for (const ring of piece)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        if (far(ring[i], hand) <= snap && (!corner || far(ring[i], hand) < far(corner, hand))) corner = ring[i];
        const q = onSegment(hand, ring[j], ring[i]);
        if (!edge || far(q, hand) < far(edge, hand)) edge = q;
      }
  }
  if (corner) return corner;
  if (edge && inside) return far(edge, hand) < snap / 2 ? edge : hand;
  return edge;
}

/** The transform that brings a path drawn at one place (y up turned down) to another. */
export function moved(from: Laid, to: Laid): string {
  const flip = from.mirrored === to.mirrored ? "" : " scale(-1 1)";
  // the path's mirror lies under its turn: undo the turn, mirror, turn anew
  return `translate(${to.x} ${-to.y}) rotate(${-to.angle})${flip} rotate(${from.angle}) translate(${-from.x} ${from.y})`;
}

type Placed = Laid & { locked?: boolean };
type Arranged = {
  sheets: { [key: string]: { size: string; order: number; cut?: boolean; placed: { [key: string]: Placed } } };
  flats: { [part: string]: string };
};

export function placedOf(p: PlacedOut): Placed {
  const { part, number, x, y, angle, mirrored, locked } = p;
  return { part, number, x, y, angle: angle % 360, mirrored: mirrored ?? false, locked: locked ?? false };
}

/** A layout as an arrangement by hand. */
export function arrangement(layout: LayoutOut): Arranged {
  const sheets: Arranged["sheets"] = {};
  layout.sheets.forEach((s, n) => {
    sheets[`s${n + 1}`] = {
      size: s.size,
      order: n,
      cut: s.cut,
      placed: Object.fromEntries(s.parts.map((p) => [laidKey(p), placedOf(p)])),
    };
  });
  return { sheets, flats: layout.flats };
}

/** The edit that lays a stock as it is arranged: small where it is by hand already and only a few pieces differ. */
export function arrange(doc: Doc, stock: string, layout: LayoutOut, change: (a: Arranged) => void): Patch {
  const next = structuredClone(arrangement(layout));
  change(next);
  for (const [key, sheet] of Object.entries(next.sheets)) if (!Object.keys(sheet.placed).length) delete next.sheets[key];
  const before = doc.nest.arranged?.[stock] as Arranged | undefined;
  const same =
    before &&
    Object.keys(before.sheets).length === Object.keys(next.sheets).length &&
    Object.entries(next.sheets).every(([k, s]) => before.sheets[k]?.size === s.size && !!before.sheets[k].cut === !!s.cut) &&
    JSON.stringify(Object.entries(before.flats).sort()) === JSON.stringify(Object.entries(next.flats).sort());
  if (!same) return [{ op: "add", path: pointer("nest", "arranged", stock), value: next }];
  const patch: Patch = [];
  for (const [key, sheet] of Object.entries(next.sheets)) {
    const old = before.sheets[key].placed;
    for (const k of Object.keys(old))
      if (!sheet.placed[k]) patch.push({ op: "remove", path: pointer("nest", "arranged", stock, "sheets", key, "placed", k) });
    for (const [k, p] of Object.entries(sheet.placed))
      if (!old[k] || !alike(old[k], p))
        patch.push({ op: "add", path: pointer("nest", "arranged", stock, "sheets", key, "placed", k), value: p });
  }
  return patch;
}

function alike(a: Placed, b: Placed): boolean {
  return (
    Math.abs(a.x - b.x) < 1e-9 &&
    Math.abs(a.y - b.y) < 1e-9 &&
    Math.abs(a.angle - b.angle) < 1e-9 &&
    a.mirrored === b.mirrored &&
    !!a.locked === !!b.locked
  );
}

/** The next turn in a list of degrees after the present one. */
export function nextTurn(turns: number[], angle: number): number {
  const sorted = [...turns].sort((a, b) => a - b);
  const now = ((angle % 360) + 360) % 360;
  return sorted.find((t) => t > now + 1e-6) ?? sorted[0] ?? 0;
}

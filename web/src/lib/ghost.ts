// Where a board hangs while it is placed: in which of the rooms before a face, and at which place in it. Everything is told by the core; here the nearest of it is taken.
import type { BoundOut, FreeRoom, FreeRooms } from "../api/types";
import { type Axis, FACES, FRAME, type Plane } from "./document";
import { INCH, LENGTH_UNITS } from "./units";

export type Vec = [number, number, number];
export type Ghost = {
  room: FreeRoom;
  /** its box in the room, in mm */
  low: Vec;
  high: Vec;
  /** by which face it is placed, and at what entry */
  face: string;
  at: string;
  /** what it caught on, else '' */
  words: string;
};

const AXES: Axis[] = ["x", "y", "z"];
/** A pointer lies in a room that ends this near to it (mm). */
const EDGE = 0.1;
/** And where there is none, one this near (mm) is taken: the pointer is on the end of a finger or a tab. */
const NEAR = 25;
/** Pixels within which what is placed catches on something. */
export const CATCH = 8;

/** Steps of places that catch on nothing, the finest that is some pixels wide. */
const STEPS = { mm: [0.5, 1, 5, 10, 50, 100], in: [INCH / 16, INCH / 8, INCH / 2, INCH, 6 * INCH] };
const STEP_PIXELS = 4;

/** The rooms at a place on the face, the likeliest first: those that touch it, then what lies behind. On the end of a finger, that which is nearest. */
export function roomsAt(found: FreeRooms, at: Vec): FreeRoom[] {
  const off = (room: FreeRoom) =>
    Math.max(0, ...AXES.map((a, i) => (a === found.axis ? 0 : Math.max(room[a][0].value - at[i], at[i] - room[a][1].value))));
  const here = found.rooms.filter((room) => off(room) <= EDGE);
  if (here.length) return here;
  const nearest = Math.min(...found.rooms.map(off));
  return nearest <= NEAR ? found.rooms.filter((room) => off(room) <= nearest + EDGE) : [];
}

/** The step that is wide enough to be seen, of so many mm a pixel. */
export function stepOf(scale: number, unit: "mm" | "in"): number {
  const steps = STEPS[unit];
  return steps.find((s) => s >= scale * STEP_PIXELS) ?? steps[steps.length - 1];
}

/** A length as it is typed: to a hundredth of a millimetre, or as an inch with its fraction in decimals. */
export function typedLength(mm: number, unit: "mm" | "in"): string {
  return unit === "mm" ? `${Number(mm.toFixed(2))} mm` : `${Number((mm / INCH).toFixed(4))} in`;
}

/** The entry of a place so far from a room's end, inward. */
export function away(bound: BoundOut, mm: string, inward: 1 | -1): string {
  if (/^0( mm| in)?$/.test(bound.entry)) return inward > 0 ? mm : `-${mm}`;
  return `${bound.entry} ${inward > 0 ? "+" : "-"} ${mm}`;
}

/** How many mm a typed distance is; null where it is none. */
export function distanceOf(text: string, unit: "mm" | "in"): number | null {
  const found = /^\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|in|")?\s*$/.exec(text);
  return found ? Number(found[1].replace(",", ".")) * LENGTH_UNITS[found[2] ?? unit] : null;
}

/** A room with lengths that were typed along the axes at whose far end nothing bounds it. */
export function stretched(room: FreeRoom, lengths: Partial<Record<Axis, string>>, unit: "mm" | "in"): FreeRoom {
  let found = room;
  for (const axis of AXES) {
    const mm = distanceOf(lengths[axis] ?? "", unit);
    if (mm === null || mm <= 0 || !room.open.includes(axis)) continue;
    const [low, high] = room[axis];
    const text = typedLength(mm, unit);
    // the end that is bound stays; of two that are not, the low one
    const far: BoundOut = { value: 0, entry: "", part: "", slopes: false };
    if (high.part && !low.part)
      found = { ...found, [axis]: [{ ...far, value: high.value - mm, entry: away(high, text, -1) }, high] };
    else found = { ...found, [axis]: [low, { ...far, value: low.value + mm, entry: away(low, text, 1) }] };
  }
  return found;
}

/** How near to a face's edge a board stands along that edge: so many pixels, and at most this share of the face. */
const ALONG_PIXELS = 34;
const ALONG_SHARE = 0.22;

/** The edge of a face that a place is near to: its axis, and which end; null in the middle of it. `low` and `high` are the part's own ends. */
export function edgeNear(at: Vec, low: Vec, high: Vec, normal: Axis, scale: number): { axis: Axis; end: 0 | 1 } | null {
  const near = AXES.flatMap((axis, i) =>
    axis === normal
      ? []
      : ([0, 1] as const).map((end) => ({ axis, end, off: Math.abs(at[i] - [low, high][end][i]), of: high[i] - low[i] })),
  ).sort((a, b) => a.off - b.off)[0];
  return near.off <= Math.min(ALONG_PIXELS * scale, ALONG_SHARE * near.of) ? { axis: near.axis, end: near.end } : null;
}

/** The way a board stands whose thickness runs along an axis. */
export const PLANE_OF: Record<Axis, Plane> = { x: "facing_side", y: "facing_front", z: "lying" };

/** So many places are offered by number. */
const OFFERED = 6;

/** The places where a board catches that are offered by number: the likeliest, from its low end up. */
export function likely(ghost: Ghost): FreeRoom["catches"] {
  const best = [...ghost.room.catches].sort((a, b) => a.rank - b.rank).slice(0, OFFERED);
  return best.sort((a, b) => a.low - b.low);
}

/** The end at which a drawer in a room comes out: level, where nothing bounds it; the front first. */
export function wayOut(room: FreeRoom): string {
  const ends = (["y", "x"] as const).flatMap((a) => [0, 1].map((i) => ({ word: FACES[a][i], open: !room[a][i as 0 | 1].part })));
  return (ends.find((e) => e.open) ?? ends[0]).word;
}

type Wish = {
  /** where its low face would lie (mm); null at the face that it came from */
  low: number | null;
  scale: number;
  /** a distance that was typed, from the face that it came from or else from the room's low end */
  typed: string;
  unit: "mm" | "in";
};

/** The board in a room, as near to a wish as it goes. */
export function ghostIn(found: FreeRooms, room: FreeRoom, plane: Plane, wish: Wish): Ghost {
  const n = FRAME[plane].normal;
  const [low, high] = room[n];
  const t = found.thickness;
  const fromHigh = n === found.axis && found.outward < 0;
  const place = (): { low: number; face: string; at: string; words: string } => {
    const distance = distanceOf(wish.typed, wish.unit);
    if (distance !== null) {
      const text = typedLength(distance, wish.unit);
      return fromHigh
        ? { low: high.value - distance - t, face: FACES[n][1], at: away(high, text, -1), words: "" }
        : { low: low.value + distance, face: FACES[n][0], at: away(low, text, 1), words: "" };
    }
    const wanted = wish.low ?? (fromHigh ? high.value - t : low.value);
    const reach = Math.max(8 * wish.scale, 1e-3);
    const near = room.catches
      .filter((c) => Math.abs(c.low - wanted) <= reach)
      .sort((a, b) => Math.abs(a.low - wanted) - Math.abs(b.low - wanted) || a.rank - b.rank)[0];
    if (near) return { low: near.low, face: near.face, at: near.entry, words: near.words };
    const step = stepOf(wish.scale, wish.unit);
    const round = (mm: number) => Math.round(mm / step) * step;
    const room_ = high.value - low.value - t;
    if (wanted - low.value <= room_ / 2 || room.open.includes(n)) {
      const off = Math.min(Math.max(round(wanted - low.value), 0), room_);
      return { low: low.value + off, face: FACES[n][0], at: away(low, typedLength(off, wish.unit), 1), words: "" };
    }
    const off = Math.min(Math.max(round(high.value - t - wanted), 0), room_);
    return { low: high.value - t - off, face: FACES[n][1], at: away(high, typedLength(off, wish.unit), -1), words: "" };
  };
  const found_ = place();
  const box = (which: 0 | 1) => AXES.map((a) => (a === n ? found_.low + which * t : room[a][which].value)) as Vec;
  return { room, low: box(0), high: box(1), face: found_.face, at: found_.at, words: found_.words };
}

/** The ends of a room that a board touches with its rim, each with the axis and which end it is. */
export function endsOf(room: FreeRoom, plane: Plane): { axis: Axis; which: 0 | 1; bound: BoundOut }[] {
  const { u, v } = FRAME[plane];
  return [u, v].flatMap((axis) => ([0, 1] as const).map((which) => ({ axis, which, bound: room[axis][which] })));
}

// Where things are once they are moved: each carried by the one that it runs on. Poses are rows of a 3 x 4 matrix, from rest, in mm and radians.
import type { MoveOut, MovesOut, TravelOut } from "../api/types";
import type { Vec } from "./ghost";

export type Rows = number[];
export type At = Record<string, number>;

export const REST: Rows = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** What a movement does to all that it carries, where it has gone by some. */
export function about(move: MoveOut, by: number): Rows {
  const [x, y, z] = move.way;
  if (move.kind === "slides") return [1, 0, 0, x * by, 0, 1, 0, y * by, 0, 0, 1, z * by];
  const [c, s] = [Math.cos(by), Math.sin(by)];
  const t = 1 - c;
  const [px, py, pz] = move.at;
  const on = move.pitch * by;
  const m = [
    [c + x * x * t, x * y * t - z * s, x * z * t + y * s],
    [y * x * t + z * s, c + y * y * t, y * z * t - x * s],
    [z * x * t - y * s, z * y * t + x * s, c + z * z * t],
  ];
  return m.flatMap((r, i) => [...r, [px, py, pz][i] - (r[0] * px + r[1] * py + r[2] * pz) + [x, y, z][i] * on]);
}

/** The one behind the other: first `inner`, then `outer`. */
export function times(outer: Rows, inner: Rows): Rows {
  const found: Rows = [];
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 4; j++) {
      let sum = j === 3 ? outer[i * 4 + 3] : 0;
      for (let k = 0; k < 3; k++) sum += outer[i * 4 + k] * inner[k * 4 + j];
      found.push(sum);
    }
  return found;
}

/** Where a point comes to lie. */
export function moved(rows: Rows, [x, y, z]: Vec): Vec {
  return [0, 4, 8].map((i) => rows[i] * x + rows[i + 1] * y + rows[i + 2] * z + rows[i + 3]) as Vec;
}

/** Where a point came from. */
export function back(rows: Rows, p: Vec): Vec {
  const d = [0, 1, 2].map((i) => p[i] - rows[i * 4 + 3]);
  return [0, 1, 2].map((j) => rows[j] * d[0] + rows[4 + j] * d[1] + rows[8 + j] * d[2]) as Vec;
}

/** The movements by which a thing moves, that of its last carrier first. */
export function chainOf(moves: MovesOut, thing: string): MoveOut[] {
  const own = moves.moves.filter((m) => m.thing === thing);
  if (!own.length) return [];
  const on = moves.moves.find((m) => m.key === own[0].on);
  return [...(on ? chainOf(moves, on.thing) : []), ...own];
}

/** The pose of every piece that is not at rest. */
export function posesOf(moves: MovesOut, at: At): Map<string, Rows> {
  const found = new Map<string, Rows>();
  for (const thing of moves.things) {
    const chain = chainOf(moves, thing.key).filter((m) => at[m.key]);
    if (!chain.length) continue;
    const pose = chain.reduce((rows, m) => times(rows, about(m, at[m.key])), REST);
    for (const piece of thing.pieces) found.set(piece, pose);
  }
  return found;
}

/** How far all have gone where one has gone by some, with those that go with it. */
export function gone(at: At, key: string, by: number, travel: TravelOut | undefined): At {
  const track = travel?.track ?? [];
  if (track.length < 2) return { ...at, [key]: by };
  const next = track.findIndex((k) => k.by >= by);
  const i = next < 0 ? track.length - 1 : Math.max(next, 1);
  const [a, b] = [track[i - 1], track[i]];
  const share = Math.min(1, Math.max(0, b.by === a.by ? 0 : (by - a.by) / (b.by - a.by)));
  const found = { ...at };
  for (const k of Object.keys(b.at)) found[k] = a.at[k] + (b.at[k] - a.at[k]) * share;
  return { ...found, [key]: by };
}

/** What comes out of all that it lay in is shown so far (mm). */
const OUT = 600;

/** The way from stop to stop of a movement; a whole turn where nothing stops it. */
export function rangeOf(travel: TravelOut | undefined): [number, number] {
  if (!travel) return [0, 0];
  if (travel.low.why === "round") return [-Math.PI, Math.PI];
  const reach = (by: number, why: string) => (why === "out" ? Math.sign(by) * Math.min(Math.abs(by), OUT) : by);
  return [reach(travel.low.by, travel.low.why), reach(travel.high.by, travel.high.why)];
}

/** The value between two at which a point comes nearest to where it is wanted. */
export function nearestTo(low: number, high: number, now: number, off: (by: number) => number): number {
  let best = now;
  let least = off(now);
  const N = 48;
  for (let i = 0; i <= N; i++) {
    const by = low + ((high - low) * i) / N;
    const d = off(by);
    if (d < least - 1e-9) [best, least] = [by, d];
  }
  let [a, b] = [Math.max(low, best - (high - low) / N), Math.min(high, best + (high - low) / N)];
  for (let i = 0; i < 24; i++) {
    const [p, q] = [a + (b - a) / 3, b - (b - a) / 3];
    if (off(p) < off(q)) b = q;
    else a = p;
  }
  const found = (a + b) / 2;
  return off(found) <= least ? found : best;
}

/** How far it goes in words, and its end play. */
export function saidOf(travel: TravelOut | undefined): string {
  return travel ? [travel.words, travel.play].filter(Boolean).join("; ").replaceAll("_", " ") : "…";
}

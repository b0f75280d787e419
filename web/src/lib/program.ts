// A program that is played: where the head is at a time, what is cut by then, and which cut that belongs to.
import type { ProgramOut } from "../api/types";

export type Moves = Pick<ProgramOut, "x" | "y" | "bulge" | "t" | "kind">;
export type Place = { x: number; y: number };

export const RAPID = 0;
export const CUT = 1;
export const MARK = 2;
export const WAIT = 3;

/** The move that runs at a time (s): the first that is not over by then; the last one where all are. */
export function moveAt(p: Pick<Moves, "t">, t: number): number {
  let low = 0;
  let high = p.t.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (p.t[middle] > t) high = middle;
    else low = middle + 1;
  }
  return Math.max(0, low);
}

/** Where a move begins. */
export const startOf = (p: Pick<Moves, "x" | "y">, i: number): Place =>
  i > 0 ? { x: p.x[i - 1], y: p.y[i - 1] } : { x: 0, y: 0 };

/** The arc of a move: its centre, radius, first angle and signed sweep; null of what is straight. */
export function arcOf(p: Moves, i: number): { x: number; y: number; r: number; from: number; sweep: number } | null {
  const bulge = p.bulge[i];
  if (!bulge) return null;
  const a = startOf(p, i);
  const dx = p.x[i] - a.x;
  const dy = p.y[i] - a.y;
  const h = (1 - bulge * bulge) / (4 * bulge);
  const x = (a.x + p.x[i]) / 2 - dy * h;
  const y = (a.y + p.y[i]) / 2 + dx * h;
  return { x, y, r: Math.hypot(a.x - x, a.y - y), from: Math.atan2(a.y - y, a.x - x), sweep: 4 * Math.atan(bulge) };
}

/** The place so far along a move, 0 to 1. */
export function along(p: Moves, i: number, share: number): Place {
  const arc = arcOf(p, i);
  if (arc) {
    const turn = arc.from + arc.sweep * share;
    return { x: arc.x + arc.r * Math.cos(turn), y: arc.y + arc.r * Math.sin(turn) };
  }
  const a = startOf(p, i);
  return { x: a.x + (p.x[i] - a.x) * share, y: a.y + (p.y[i] - a.y) * share };
}

/** How much of a move is done at a time, 0 to 1. */
export function shareAt(p: Pick<Moves, "t">, i: number, t: number): number {
  const from = i > 0 ? p.t[i - 1] : 0;
  const long = p.t[i] - from;
  return long > 0 ? Math.min(1, Math.max(0, (t - from) / long)) : t >= p.t[i] ? 1 : 0;
}

/** When a share of a move is done (s); the end where all moves are. */
export function timeAt(p: Pick<Moves, "t">, i: number, share: number): number {
  if (i >= p.t.length) return p.t[p.t.length - 1] ?? 0;
  const from = i > 0 ? p.t[i - 1] : 0;
  return from + (p.t[i] - from) * share;
}

export function headAt(p: Moves, t: number): Place {
  const i = moveAt(p, t);
  return along(p, i, shareAt(p, i, t));
}

/** How high a bit is over the face at a time (mm): evenly from where a move begins to where it ends. */
export function heightAt(p: Pick<ProgramOut, "t" | "z">, t: number): number {
  const i = moveAt(p, t);
  const from = i > 0 ? p.z[i - 1] : 0;
  return from + (p.z[i] - from) * shareAt(p, i, t);
}

/** Which cut runs at a time: its place among the cuts, -1 on the way home. */
export function cutAt(p: Pick<ProgramOut, "t" | "cuts">, t: number): number {
  const i = moveAt(p, t);
  return p.cuts.findIndex((c) => i >= c.first && i < c.last);
}

/** When a cut begins and ends (s). */
export function spanOf(p: Pick<ProgramOut, "t" | "cuts">, cut: number): [number, number] {
  const { first, last } = p.cuts[cut];
  return [first > 0 ? p.t[first - 1] : 0, p.t[last - 1]];
}

/** Minutes and seconds, as 24:05. */
export function clock(seconds: number): string {
  const s = Math.round(seconds);
  const hours = Math.floor(s / 3600);
  const minutes = Math.floor((s % 3600) / 60);
  const rest = String(s % 60).padStart(2, "0");
  return hours ? `${hours}:${String(minutes).padStart(2, "0")}:${rest}` : `${minutes}:${rest}`;
}

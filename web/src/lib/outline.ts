// What the pointer catches on while an outline is drawn, and what is seen of the line in hand. All places in mm on the part.
import type { DrawingOut } from "../api/types";
import type { Pair } from "./plane";

export type Seen = "level" | "upright" | "smooth" | "square";
/** Where a press would be: the place, what it is on ('' for nothing), and in words. */
export type Caught = { at: Pair; on: string; words: string; seen: Seen[] };
/** A thing of a drawing under the pointer. */
export type Thing = { key: string; kind: "point" | "curve" | "reference" | "candidate"; words: string; at: Pair };

/** How near to an angle a line in hand counts as it (radians). */
const MEANT = 0.035;

export const dist = (p: readonly number[], q: readonly number[]) => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** The place on a run of chords that is nearest to one, and how far away that is. */
export function nearestOn(path: readonly (readonly number[])[], p: Pair): { at: Pair; off: number } {
  let best: { at: Pair; off: number } = {
    at: [path[0]?.[0] ?? 0, path[0]?.[1] ?? 0],
    off: path[0] ? dist(path[0], p) : Infinity,
  };
  for (let i = 1; i < path.length; i++) {
    const [a, b] = [path[i - 1], path[i]];
    if (!a.length || !b.length) continue; // the pen is lifted
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const long = dx * dx + dy * dy;
    const t = long ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / long)) : 0;
    const at: Pair = [a[0] + dx * t, a[1] + dy * t];
    const off = dist(at, p);
    if (off < best.off) best = { at, off };
  }
  return best;
}

/** Everything within a reach of a place, the likeliest first: points, then lines and arcs, then what may be referred to. */
export function thingsAt(d: DrawingOut, p: Pair, reach: number): Thing[] {
  const rank = { point: 0, curve: 1, reference: 2, candidate: 3 };
  const found: (Thing & { off: number })[] = [];
  for (const q of d.points) {
    const off = dist(q.at, p);
    if (off <= reach * 1.3) found.push({ key: q.key, kind: "point", words: q.words, at: [q.at[0], q.at[1]], off });
  }
  const runs = (kind: "curve" | "reference" | "candidate", list: { id: string; words: string; path: number[][] }[]) => {
    for (const { id, words, path } of list) {
      const { at, off } = nearestOn(path, p);
      if (off <= reach) found.push({ key: id, kind, words, at, off });
    }
  };
  runs(
    "curve",
    d.curves.map((c) => ({ id: c.key, words: c.words, path: c.path as number[][] })),
  );
  runs(
    "reference",
    d.references.map((r) => ({ id: r.key, words: r.words, path: r.path as number[][] })),
  );
  runs(
    "candidate",
    offered(d).map((c) => ({ id: c.id, words: c.words, path: c.path as number[][] })),
  );
  return found.sort((a, b) => rank[a.kind] - rank[b.kind] || a.off - b.off).map(({ off: _, ...thing }) => thing);
}

/** What may be referred to that lies on the part or not far beside it; one of those that lie on one another. */
export function offered(d: DrawingOut): DrawingOut["candidates"] {
  const [w, h] = d.size;
  const known = new Set<string>();
  const past = 0.3 * Math.max(w, h);
  return d.candidates.filter((c) => {
    const x = c.path.map((p) => p[0]);
    const y = c.path.map((p) => p[1]);
    const [x0, x1, y0, y1] = [Math.min(...x), Math.max(...x), Math.min(...y), Math.max(...y)];
    if (x1 < -past || x0 > w + past || y1 < -past || y0 > h + past) return false;
    const box = [x0, y0, x1, y1].map((v) => v.toFixed(2)).join();
    // level and upright ones are one wherever they end; what slopes is not
    const key =
      c.kind !== "line"
        ? box
        : x0 === x1
          ? `x${x0.toFixed(2)}`
          : y0 === y1
            ? `y${y0.toFixed(2)}`
            : `${box}${y[0] < y[1] === x[0] < x[1]}`;
    const taken = known.has(key) || d.references.some((r) => r.kind === c.kind && same(r.path, c.path));
    known.add(key);
    return !taken;
  });
}

const same = (a: readonly (readonly number[])[], b: readonly (readonly number[])[]) =>
  a.length === b.length && a.every((p, i) => dist(p, b[i]) < 0.01);

/** Where a press would be made: on what is near, level or upright with what went before, else at a round place. */
export function caughtAt(d: DrawingOut, p: Pair, reach: number, step: number, before: Pair | null, way: number | null): Caught {
  const middle = middleAt(d, p, reach);
  const [thing] = thingsAt(d, p, reach);
  const seen = before ? seenOf(before, thing?.kind === "point" ? thing.at : p, way) : [];
  if (thing?.kind === "point") return { at: thing.at, on: thing.key, words: thing.words, seen };
  if (middle) return { ...middle, seen: [] };
  if (thing) {
    const at =
      before && seen[0] ? crossed(d, thing, before, seen[0], way, thing.at) : roundOn(pathTo(d, thing.key), thing.at, step);
    return { at, on: thing.key, words: `on ${thing.words}`, seen: dist(at, p) <= reach * 2 ? seen : [] };
  }
  const round: Pair = [Math.round(p[0] / step) * step + 0, Math.round(p[1] / step) * step + 0];
  if (before && seen[0]) return { at: along(before, p, round, seen[0], way), on: "", words: seen.join(", "), seen };
  return { at: round, on: "", words: "", seen: [] };
}

const pathTo = (d: DrawingOut, key: string): number[][] =>
  (d.curves.find((c) => c.key === key)?.path ??
    d.references.find((r) => r.key === key)?.path ??
    d.candidates.find((c) => c.id === key)?.path ??
    []) as number[][];

/** A place on a level or upright line at a round step along it, where that is on the line. */
function roundOn(path: number[][], at: Pair, step: number): Pair {
  if (path.length !== 2) return at;
  const [a, b] = path;
  if (a[0] !== b[0] && a[1] !== b[1]) return at;
  const k = a[0] === b[0] ? 1 : 0;
  const round = Math.round(at[k] / step) * step + 0;
  if (round < Math.min(a[k], b[k]) || round > Math.max(a[k], b[k])) return at;
  return k ? [at[0], round] : [round, at[1]];
}

function middleAt(d: DrawingOut, p: Pair, reach: number): Omit<Caught, "seen"> | null {
  for (const c of d.curves) {
    if (c.kind !== "line" || c.path.length < 2) continue;
    const at: Pair = [(c.path[0][0] + c.path[1][0]) / 2, (c.path[0][1] + c.path[1][1]) / 2];
    if (dist(at, p) <= reach) return { at, on: `${c.key}.middle`, words: `middle of ${c.words}` };
  }
  return null;
}

/** How a line from one place to another lies: level, upright, or smooth or square to the way on which it goes on. */
export function seenOf(from: Pair, to: Pair, way: number | null): Seen[] {
  const turn = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const near = (a: number) => Math.abs(Math.sin(turn - a)) < MEANT;
  if (near(0)) return ["level"];
  if (near(Math.PI / 2)) return ["upright"];
  if (way !== null && near(way) && Math.cos(turn - way) > 0) return ["smooth"];
  if (way !== null && near(way + Math.PI / 2)) return ["square"];
  return [];
}

function wayOf(seen: Seen, way: number | null): number {
  return seen === "level" ? 0 : seen === "upright" ? Math.PI / 2 : (way ?? 0) + (seen === "square" ? Math.PI / 2 : 0);
}

/** A place in line with what is seen. */
function along(from: Pair, p: Pair, round: Pair, seen: Seen, way: number | null): Pair {
  if (seen === "level") return [round[0], from[1]];
  if (seen === "upright") return [from[0], round[1]];
  const t = wayOf(seen, way);
  const far = (p[0] - from[0]) * Math.cos(t) + (p[1] - from[1]) * Math.sin(t);
  return [from[0] + far * Math.cos(t), from[1] + far * Math.sin(t)];
}

/** Where the line in hand, as it is seen, crosses what was caught. */
function crossed(d: DrawingOut, thing: Thing, from: Pair, seen: Seen, way: number | null, else_: Pair): Pair {
  const t = wayOf(seen, way);
  const [ex, ey] = [Math.cos(t), Math.sin(t)];
  const path = pathTo(d, thing.key);
  let best: Pair = else_;
  let off = Infinity;
  for (let i = 1; i < path.length; i++) {
    const [a, b] = [path[i - 1], path[i]];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const cross = ex * dy - ey * dx;
    if (Math.abs(cross) < 1e-9) continue;
    const s = ((from[0] - a[0]) * ey - (from[1] - a[1]) * ex) / -cross;
    if (s < -0.001 || s > 1.001) continue;
    const at: Pair = [a[0] + dx * s, a[1] + dy * s];
    if (dist(at, else_) < off) {
      best = at;
      off = dist(at, else_);
    }
  }
  return best;
}

/** The way on which a line or an arc leaves through one of its points (radians); null where none ends there. */
export function leavesAt(d: DrawingOut, point: string): number | null {
  const at = d.points.find((p) => p.key === point)?.at;
  const ending = d.curves.filter((c) => (c.kind === "line" || c.kind === "arc") && c.points.slice(0, 2).includes(point));
  const last = ending[ending.length - 1];
  if (!at || !last || last.path.length < 2) return null;
  const path = last.path as number[][];
  const [p, q] = dist(path[0], at) < dist(path[path.length - 1], at) ? [path[1], path[0]] : path.slice(-2);
  return Math.atan2(q[1] - p[1], q[0] - p[0]);
}

/** What things are, a letter each, as the kinds of relations say what they tie; null where one is none of them. */
export function lettersOf(d: DrawingOut, keys: string[]): string | null {
  const letters = keys.map((k) => {
    if (d.points.some((p) => p.key === k)) return "p";
    const curve = d.curves.find((c) => c.key === k);
    if (curve) return { line: "l", arc: "c", circle: "c", spline: "s", text: null }[curve.kind];
    const kind = d.references.find((r) => r.key === k)?.kind ?? d.candidates.find((c) => c.id === k)?.kind;
    return kind ? { line: "l", circle: "c", point: "p" }[kind] : null;
  });
  return letters.includes(null) ? null : letters.join("");
}

/** Whether things may be tied in a way: 'll*' for two lines or more. */
export function fits(letters: string, way: string): boolean {
  if (!way.endsWith("*")) return letters === way;
  const least = way.slice(0, -1);
  const last = least[least.length - 1];
  return letters.startsWith(least) && [...letters.slice(least.length)].every((c) => c === last);
}

/** The order of things in which a relation takes them: as they were chosen, or another in which it fits; null where there is none. */
export function orderFor(d: DrawingOut, keys: string[], takes: readonly string[]): string[] | null {
  if (keys.length > 6) {
    const letters = lettersOf(d, keys);
    return letters && takes.some((way) => fits(letters, way)) ? keys : null;
  }
  for (const order of permutations(keys)) {
    const letters = lettersOf(d, order);
    if (letters && takes.some((way) => fits(letters, way))) return order;
  }
  return null;
}

function permutations(keys: string[]): string[][] {
  if (keys.length < 2) return [keys];
  return keys.flatMap((k, i) => permutations(keys.filter((_, j) => j !== i)).map((rest) => [k, ...rest]));
}

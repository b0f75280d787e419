// Laying a folded part's net part of the way between flat and bent. The same arithmetic as the core's `making/result/fold.py`, which gives the bent solid;
// here it runs at every frame of the slider.
import type { SolidOut } from "../../api/types";

export type Skin = NonNullable<SolidOut["skin"]>;
type Vector = [number, number, number];
/** Rows of a rigid motion (3 × 4). */
type Rows = [number[], number[], number[]];

const IDENTITY: Rows = [
  [1, 0, 0, 0],
  [0, 1, 0, 0],
  [0, 0, 1, 0],
];

/** Positions of a solid's corners (face B, then face A; x, y, z runs) with each bend its share of the way done. */
export function laid(skin: Skin, shares: number[]): Float32Array {
  const n = skin.zone.length;
  const found = new Float32Array(n * 6);
  const motions: Rows[] = [IDENTITY];
  const bends = skin.bends.map((b, i) => new Bend(b, skin.thickness, shares[i]));
  skin.bends.forEach((b, i) => {
    motions.push(times(motions[b.parent], bends[i].motion()));
  });
  for (let i = 0; i < n; i++) {
    const [u, v, zone] = [skin.flat[2 * i], skin.flat[2 * i + 1], skin.zone[i]];
    for (const [offset, w] of [
      [0, 0],
      [n * 3, skin.thickness],
    ]) {
      const at: Vector = zone >= 0 ? [u, v, w] : bends[-1 - zone].place(u, v, w);
      const rows = motions[zone >= 0 ? zone : skin.bends[-1 - zone].parent];
      for (let k = 0; k < 3; k++)
        found[offset + 3 * i + k] = rows[k][0] * at[0] + rows[k][1] * at[1] + rows[k][2] * at[2] + rows[k][3];
    }
  }
  return found;
}

/** Triangles (x, y, z runs) of the stiffeners pressed into the bends, standing in their inner corners. */
export function dartsOf(skin: Skin, shares: number[]): Float32Array {
  const motions: Rows[] = [IDENTITY];
  const points: number[] = [];
  skin.bends.forEach((b, i) => {
    const bend = new Bend(b, skin.thickness, shares[i]);
    motions.push(times(motions[b.parent], bend.motion()));
    const w = b.angle > 0 ? skin.thickness : 0;
    for (const g of b.gussets) {
      const places = [0, 1, 2, 3].map((k) => {
        const [along, across] = [g[2 * k], g[2 * k + 1]];
        const u = b.start[0] + bend.along[0] * along + bend.outward[0] * across;
        const v = b.start[1] + bend.along[1] * along + bend.outward[1] * across;
        // the first lies on the parent, the second on the leg, the others in the bend
        const rows = motions[k === 1 ? i + 1 : b.parent];
        const at = k > 1 ? bend.place(u, v, w) : [u, v, w];
        return apply(rows, at as Vector);
      });
      for (const [p, q, r] of [
        [0, 1, 2],
        [0, 1, 3],
      ])
        points.push(...places[p], ...places[q], ...places[r]);
    }
  });
  return new Float32Array(points);
}

/**
 * The face behind each bend as it stands: middle and far edge's middle, places on its three edges that others may grow from, the ways outward of it
 * and of what it stands on, and to its face A, in (u, v, w).
 */
export function facesOf(skin: Skin) {
  const motions: Rows[] = [IDENTITY];
  return skin.bends.map((b, i) => {
    const bend = new Bend(b, skin.thickness, 1);
    motions.push(times(motions[b.parent], bend.motion()));
    const rows = motions[i + 1];
    let far = bend.width;
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    skin.zone.forEach((zone, k) => {
      if (zone !== i + 1) return;
      const [x, y] = [skin.flat[2 * k] - b.start[0], skin.flat[2 * k + 1] - b.start[1]];
      far = Math.max(far, x * bend.outward[0] + y * bend.outward[1]);
      const on = x * bend.along[0] + y * bend.along[1];
      [low, high] = [Math.min(low, on), Math.max(high, on)];
    });
    const middle = low < high ? (low + high) / 2 : Math.hypot(b.end[0] - b.start[0], b.end[1] - b.start[1]) / 2;
    const [near, beyond] = low < high ? [low, high] : [0, 2 * middle];
    const at = (across: number, along = middle) => {
      const p = [0, 1].map((k) => b.start[k] + bend.along[k] * along + bend.outward[k] * across);
      return apply(rows, [p[0], p[1], skin.thickness / 2]);
    };
    const turn = (m: Rows) => m.map((row) => row[0] * bend.outward[0] + row[1] * bend.outward[1]);
    return {
      owner: b.owner,
      middle: at((bend.width + far) / 2),
      end: at(far),
      edges: {
        end: at(far, middle + (beyond - near) / 4),
        low: at((bend.width + far) / 2, near),
        high: at((bend.width + far) / 2, beyond),
      },
      up: rows.map((row) => row[2]),
      outward: turn(rows),
      parentOutward: turn(motions[b.parent]),
    };
  });
}

function apply(rows: Rows, at: Vector): Vector {
  return rows.map((row) => row[0] * at[0] + row[1] * at[1] + row[2] * at[2] + row[3]) as Vector;
}

class Bend {
  readonly width: number;
  readonly angle: number;
  readonly radius: number;
  readonly along: [number, number];
  readonly outward: [number, number];

  constructor(
    readonly bend: Skin["bends"][number],
    readonly thickness: number,
    share: number,
  ) {
    this.width = Math.abs(bend.angle) * (bend.radius + bend.k * thickness);
    this.angle = Math.abs(bend.angle) * share;
    // half-way bends keep the length of the neutral line, so their radius is larger
    this.radius = this.angle > 1e-6 ? this.width / this.angle - bend.k * thickness : 0;
    const [dx, dy] = [bend.end[0] - bend.start[0], bend.end[1] - bend.start[1]];
    const length = Math.hypot(dx, dy);
    this.along = [dx / length, dy / length];
    this.outward = [dy / length, -dx / length];
  }

  /** Across and up, of a place `s` mm into the strip at height `w`. */
  bent(s: number, w: number): [number, number] {
    if (this.angle <= 1e-6) return [s, w];
    const turn = (s / this.width) * this.angle;
    if (this.bend.angle > 0) {
      const centre = this.thickness + this.radius;
      return [(centre - w) * Math.sin(turn), centre - (centre - w) * Math.cos(turn)];
    }
    return [(this.radius + w) * Math.sin(turn), (this.radius + w) * Math.cos(turn) - this.radius];
  }

  place(u: number, v: number, w: number): Vector {
    const [x, y] = [u - this.bend.start[0], v - this.bend.start[1]];
    const [d, n] = [this.along, this.outward];
    const on = x * d[0] + y * d[1];
    const [across, up] = this.bent(x * n[0] + y * n[1], w);
    return [this.bend.start[0] + d[0] * on + n[0] * across, this.bend.start[1] + d[1] * on + n[1] * across, up];
  }

  /** From where its face lies on the flat to where it stands, its parent lying flat. */
  motion(): Rows {
    const [d, n] = [this.along, this.outward];
    const [y0, z0] = this.bent(this.width, 0);
    const [y1, z1] = this.bent(this.width, 1);
    const up = [y1 - y0, z1 - z0];
    const out = [up[1], -up[0]];
    const base = [this.bend.start[0] + n[0] * this.width, this.bend.start[1] + n[1] * this.width];
    const at = [this.bend.start[0] + n[0] * y0, this.bend.start[1] + n[1] * y0, z0];
    const columns = [
      [d[0] * d[0] + n[0] * n[0] * out[0], d[0] * d[1] + n[0] * n[1] * out[0], n[0] * out[1]],
      [d[1] * d[0] + n[1] * n[0] * out[0], d[1] * d[1] + n[1] * n[1] * out[0], n[1] * out[1]],
      [n[0] * up[0], n[1] * up[0], up[1]],
    ];
    return [0, 1, 2].map((i) => [
      columns[0][i],
      columns[1][i],
      columns[2][i],
      at[i] - columns[0][i] * base[0] - columns[1][i] * base[1],
    ]) as Rows;
  }
}

function times(a: Rows, b: Rows): Rows {
  return a.map((row) =>
    [0, 1, 2, 3].map((c) => row[0] * b[0][c] + row[1] * b[1][c] + row[2] * b[2][c] + (c === 3 ? row[3] : 0)),
  ) as Rows;
}

/** How far each bend is done: all of them by one share, or one after the other in an order (`step` of them are done, the last by its fraction). */
export function sharesOf(skin: Skin, fold: { mode: "all" | "each"; share: number }, order: string[]): number[] {
  if (fold.mode === "all") return skin.bends.map(() => fold.share);
  const step = fold.share * order.length;
  return skin.bends.map((b) => {
    const i = order.indexOf(b.owner);
    return i < 0 ? 1 : Math.min(1, Math.max(0, step - i));
  });
}

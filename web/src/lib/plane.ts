// A plane in the room as the camera sees it: places on it to the screen and back.
export type Pair = [number, number];
/** From (x, y, 1) on the plane to the screen, times its depth; row by row. */
export type Sight = { there: number[]; back: number[] };

/** `frame` is the motion from the plane's (u, v, w) to the room (3 rows of 4), `high` the w that is looked at, `camera` the projection times the view, by columns. */
export function sightOf(
  frame: readonly (readonly number[])[],
  high: number,
  camera: ArrayLike<number>,
  [w, h]: Pair,
): Sight | null {
  const room = [0, 1, 2].map((r) => [frame[r][0], frame[r][1], frame[r][2] * high + frame[r][3]]);
  const clip = [0, 1, 3].map((r) =>
    [0, 1, 2].map((c) => [0, 1, 2].reduce((sum, k) => sum + camera[k * 4 + r] * room[k][c], c === 2 ? camera[12 + r] : 0)),
  );
  const there = [
    ...[0, 1, 2].map((c) => ((clip[0][c] + clip[2][c]) * w) / 2),
    ...[0, 1, 2].map((c) => ((clip[2][c] - clip[1][c]) * h) / 2),
    ...clip[2],
  ];
  const back = inverse(there);
  return back && { there, back };
}

export const toScreen = (s: Sight, p: readonly number[]): Pair => through(s.there, p);
export const toPlane = (s: Sight, p: readonly number[]): Pair => through(s.back, p);

/** The middle of what is seen of a plane at first. */
export const middleOf = (d: { low: readonly number[]; size: readonly number[] }): Pair => [
  d.low[0] + d.size[0] / 2,
  d.low[1] + d.size[1] / 2,
];

/** How many mm a pixel is about a place. */
export function mmPerPixel(s: Sight, at: readonly number[]): number {
  const [x, y] = toScreen(s, at);
  const [u, v] = toPlane(s, [x + 1, y]);
  return Math.max(Math.hypot(u - at[0], v - at[1]), 1e-6);
}

/** What CSS lays a picture into the plane with: a pixel goes so far `across` and `down`, from its corner `at`. */
export function matrixOf(s: Sight, at: readonly number[], across: readonly number[], down: readonly number[]): string {
  const [x, y, z] = [0, 3, 6].map((r) => {
    const [a, b, c] = s.there.slice(r, r + 3);
    return [a * across[0] + b * across[1], a * down[0] + b * down[1], a * at[0] + b * at[1] + c];
  });
  // CSS asks for 1 as the last of them: all are divided by it
  const m = [x[0], y[0], 0, z[0], x[1], y[1], 0, z[1], 0, 0, z[2], 0, x[2], y[2], 0, z[2]].map((v) => v / z[2]);
  return `matrix3d(${m.map((v) => v.toPrecision(12)).join()})`;
}

function through(m: number[], p: readonly number[]): Pair {
  const w = m[6] * p[0] + m[7] * p[1] + m[8];
  return [(m[0] * p[0] + m[1] * p[1] + m[2]) / w, (m[3] * p[0] + m[4] * p[1] + m[5]) / w];
}

function inverse(m: number[]): number[] | null {
  const [a, b, c, d, e, f, g, h, i] = m;
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (!Number.isFinite(det) || Math.abs(det) < 1e-12) return null;
  const all = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
  return all.map((x) => x / det);
}

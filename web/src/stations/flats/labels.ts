// Where the words on a flat stand so that they do not cover one another: bends' along their lines, holes' beside them. All in the drawing's
// own coordinates, y down.

type Point = [number, number];
/** A box about its middle, turned by degrees. */
export type Box = { x: number; y: number; halfWidth: number; halfHeight: number; turn: number };
/** `step` stands in a ring at the outer end, `text` after the triangle; where there is no room for it, it is ''. `ring` is the ring's way along the label. */
export type BendLabel = Box & { key: string; step: string; text: string; ring: 1 | -1 };
export type HoleLabel = Box & { key: string; text: string };

/** A glyph's width in the figures' face, as a share of its size. */
const GLYPH = 0.56;
/** At the ends of a bend's line is best, then farther in. */
const ALONG = [0, 1, 0.08, 0.92, 0.2, 0.8, 0.35, 0.65, 0.5];
/** How long the ring and the triangle of a bend's mark are, in sizes of its figures. */
export const RING = 1.5;
export const TRIANGLE = 0.95;

/** Whether two turned boxes overlap: no side of either separates them. */
export function overlap(a: Box, b: Box): boolean {
  const axes = [a.turn, a.turn + 90, b.turn, b.turn + 90].map(
    (t): Point => [Math.cos((t * Math.PI) / 180), Math.sin((t * Math.PI) / 180)],
  );
  const reach = (box: Box, [ax, ay]: Point) => {
    const t = (box.turn * Math.PI) / 180;
    return (
      box.halfWidth * Math.abs(ax * Math.cos(t) + ay * Math.sin(t)) +
      box.halfHeight * Math.abs(ay * Math.cos(t) - ax * Math.sin(t))
    );
  };
  return axes.every((axis) => {
    const apart = Math.abs((b.x - a.x) * axis[0] + (b.y - a.y) * axis[1]);
    return apart < reach(a, axis) + reach(b, axis) - 1e-9;
  });
}

/** The first box that covers nothing placed, or the one that covers least. */
function freest<B extends Box>(candidates: B[], placed: Box[]): B {
  let best = candidates[0];
  let least = Number.POSITIVE_INFINITY;
  for (const box of candidates) {
    const hits = placed.filter((p) => overlap(box, p)).length;
    if (hits < least) [best, least] = [box, hits];
    if (!least) break;
  }
  return best;
}

export type BendLine = { key: string; line: [number, number, number, number]; step: string; text: string };
/** Holes of one size that share a label, at one of their places. */
export type Rounds = { key: string; places: Point[]; radius: number; text: string };

/** At how many of its places a group of holes tries its label. */
const PLACES = 12;

/**
 * The labels of bends (short ones first, since they have least room) and of holes (single ones first); `size` is the height of the figures,
 * `taken` is where other words stand.
 */
export function placeLabels(
  bends: BendLine[],
  holes: Rounds[],
  size: number,
  taken: Box[] = [],
): { bends: BendLabel[]; holes: HoleLabel[] } {
  const rounds: Box[] = holes.flatMap((h) =>
    h.places.map(([x, y]) => ({ x, y, halfWidth: h.radius, halfHeight: h.radius, turn: 0 })),
  );
  const placed: Box[] = [...taken];
  const lengthOf = ({ line: [x0, y0, x1, y1] }: BendLine) => Math.hypot(x1 - x0, y1 - y0);
  const bendLabels = [...bends]
    .sort((a, b) => lengthOf(a) - lengthOf(b))
    .map((bend) => {
      const [x0, y0, x1, y1] = bend.line;
      const length = lengthOf(bend);
      const turn = (Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI;
      const half = (text: string) => (RING + TRIANGLE) * size * 0.5 + text.length * size * 0.27;
      const text = 2 * half(bend.text) > length * 1.15 ? "" : bend.text;
      const room = Math.max(0, 1 - (2 * half(text)) / length);
      const over = turn > 90.01 || turn <= -89.99;
      const candidates = ALONG.map((t): BendLabel => {
        const at = 0.5 + (t - 0.5) * room;
        return {
          key: bend.key,
          step: bend.step,
          text,
          // the ring is the outermost; a label that is read the other way round has its own first end there
          ring: t <= 0.5 === over ? 1 : -1,
          x: x0 + (x1 - x0) * at,
          y: y0 + (y1 - y0) * at,
          halfWidth: half(text),
          halfHeight: size * 0.76,
          turn: over ? turn + 180 : turn,
        };
      });
      const found = freest(candidates, [...placed, ...rounds]);
      placed.push(found);
      return found;
    });
  const holeLabels = [...holes]
    .sort((a, b) => a.places.length - b.places.length)
    .map((hole) => {
      const [halfWidth, halfHeight] = [hole.text.length * size * 0.86 * GLYPH * 0.5 + size * 0.1, size * 0.45];
      const [dx, dy] = [hole.radius + halfWidth + size * 0.3, hole.radius + halfHeight + size * 0.2];
      const ways = [1, 1.6, 2.3].flatMap((far): Point[] => [
        [0, -dy * far],
        [dx * far, 0],
        [-dx * far, 0],
        [0, dy * far],
        [dx, -dy * far],
        [-dx, -dy * far],
        [dx, dy * far],
        [-dx, dy * far],
      ]);
      const candidates = ways.flatMap(([x, y]) =>
        hole.places.slice(0, PLACES).map((at) => ({
          key: hole.key,
          text: hole.text,
          x: at[0] + x,
          y: at[1] + y,
          halfWidth,
          halfHeight,
          turn: 0,
        })),
      );
      const found = freest(candidates, [...placed, ...rounds]);
      placed.push(found);
      return found;
    });
  return { bends: bendLabels, holes: holeLabels };
}

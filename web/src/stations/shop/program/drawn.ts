// A sheet while it is cut, drawn on a canvas: what is to be cut, what is cut through, what has come loose, and the head.
import type { ProgramOut } from "../../../api/types";
import { along, arcOf, CUT, MARK, moveAt, RAPID, shareAt, startOf } from "../../../lib/program";

export type Colours = {
  bed: string;
  sheet: string;
  loose: string;
  coming: string;
  inside: string;
  outside: string;
  mark: string;
  rapid: string;
  head: string;
};

/** From mm of the sheet, y up, to points of the canvas, y down. */
export type View = { scale: number; x: number; y: number };

export function viewOf(p: Pick<ProgramOut, "length" | "width">, wide: number, high: number): View {
  const room = 28;
  const scale = Math.max(0.01, Math.min((wide - 2 * room) / p.length, (high - 2 * room) / p.width));
  return { scale, x: (wide - p.length * scale) / 2, y: (high + p.width * scale) / 2 };
}

/** One path of moves, each from where the one before ended. */
export function trace(p: ProgramOut, moves: Iterable<number>, path: Path2D): Path2D {
  let last = -2;
  for (const i of moves) {
    const a = startOf(p, i);
    if (last !== i - 1) path.moveTo(a.x, a.y);
    last = i;
    const arc = arcOf(p, i);
    if (arc) path.arc(arc.x, arc.y, arc.r, arc.from, arc.from + arc.sweep, arc.sweep < 0);
    else path.lineTo(p.x[i], p.y[i]);
  }
  return path;
}

/** The paths of a program by what they are, made once: each cut's own, and all rapids. */
export type Traced = { sheet: Path2D; cuts: Path2D[]; rapids: Path2D };

export function traced(p: ProgramOut): Traced {
  const own = (first: number, last: number, wanted: (kind: number) => boolean) =>
    Array.from({ length: last - first }, (_, k) => first + k).filter((i) => wanted(p.kind[i]));
  const sheet = new Path2D();
  // what path data has downward lies upward here
  if (p.outline) sheet.addPath(new Path2D(p.outline), { a: 1, d: -1 });
  else sheet.rect(0, 0, p.length, p.width);
  return {
    sheet,
    cuts: p.cuts.map((c) =>
      trace(
        p,
        own(c.first, c.last, (k) => k === CUT || k === MARK),
        new Path2D(),
      ),
    ),
    rapids: trace(
      p,
      own(0, p.x.length, (k) => k === RAPID),
      new Path2D(),
    ),
  };
}

/** Draws the sheet as it is at a time. */
export function drawAt(
  g: CanvasRenderingContext2D,
  p: ProgramOut,
  t: number,
  paths: Traced,
  view: View,
  colours: Colours,
  lit: string,
) {
  const now = moveAt(p, t);
  const px = 1 / view.scale;
  g.save();
  g.translate(view.x, view.y);
  g.scale(view.scale, -view.scale);
  g.fillStyle = colours.sheet;
  g.fill(paths.sheet, "evenodd");
  g.strokeStyle = colours.rapid;
  g.lineWidth = px;
  g.stroke(paths.sheet);
  // what has come loose lies lighter, and what was cut out of it has dropped
  for (const [operation, colour] of [
    ["outside", colours.loose],
    ["inside", colours.bed],
  ]) {
    g.fillStyle = colour;
    p.cuts.forEach((c, k) => {
      if (c.operation === operation && (c.loose || operation === "inside") && p.t[c.last - 1] <= t) g.fill(paths.cuts[k]);
    });
  }
  g.setLineDash([4 * px, 4 * px]);
  g.stroke(paths.rapids);
  g.setLineDash([]);
  p.cuts.forEach((c, k) => {
    const done = p.t[c.last - 1] <= t;
    const colour = c.operation === "mark" ? colours.mark : c.operation === "inside" ? colours.inside : colours.outside;
    g.strokeStyle = done ? colour : colours.coming;
    g.lineWidth = (done || c.key === lit ? 2.2 : 1.2) * px;
    g.stroke(paths.cuts[k]);
    if (!done && now >= c.first) {
      g.strokeStyle = colour;
      g.lineWidth = 2.2 * px;
      const part = new Path2D();
      const own = Array.from({ length: Math.max(0, now - c.first) }, (_, n) => c.first + n).filter(
        (i) => p.kind[i] === CUT || p.kind[i] === MARK,
      );
      trace(p, own, part);
      if (p.kind[now] === CUT || p.kind[now] === MARK) {
        const share = shareAt(p, now, t);
        const a = startOf(p, now);
        const arc = arcOf(p, now);
        part.moveTo(a.x, a.y);
        if (arc) part.arc(arc.x, arc.y, arc.r, arc.from, arc.from + arc.sweep * share, arc.sweep < 0);
        else {
          const end = along(p, now, share);
          part.lineTo(end.x, end.y);
        }
      }
      g.stroke(part);
    }
  });
  const head = along(p, now, shareAt(p, now, t));
  g.strokeStyle = colours.head;
  g.fillStyle = colours.head;
  g.lineWidth = 2 * px;
  g.beginPath();
  g.arc(head.x, head.y, 7 * px, 0, 2 * Math.PI);
  g.moveTo(head.x - 12 * px, head.y);
  g.lineTo(head.x + 12 * px, head.y);
  g.moveTo(head.x, head.y - 12 * px);
  g.lineTo(head.x, head.y + 12 * px);
  g.stroke();
  if (p.kind[now] === CUT || p.kind[now] === MARK) {
    g.beginPath();
    g.arc(head.x, head.y, 3 * px, 0, 2 * Math.PI);
    g.fill();
  }
  g.restore();
}

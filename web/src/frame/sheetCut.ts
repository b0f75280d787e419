// A sheet while it is cut, drawn on a canvas: what is to be cut, what is cut through, what has come loose, and the head.
import type { ProgramOut } from "../api/types";
import { along, arcOf, CUT, MARK, moveAt, RAPID, shareAt, startOf } from "../lib/program";

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
  depth: string;
  shade: string;
  left: string;
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

const toTheBed = (p: ProgramOut, i: number) => Math.max(p.z[i], i > 0 ? p.z[i - 1] : 0) <= 0.01 - p.thickness;

/** The paths of a program by what they are, made once: each cut's own, and all rapids. */
export type Traced = { sheet: Path2D; cuts: Path2D[]; through: Path2D[]; rapids: Path2D; left: Path2D };

export function traced(p: ProgramOut): Traced {
  const own = (first: number, last: number, wanted: (kind: number) => boolean) =>
    Array.from({ length: last - first }, (_, k) => first + k).filter((i) => wanted(p.kind[i]));
  const sheet = new Path2D();
  // what path data has downward lies upward here
  if (p.outline) sheet.addPath(new Path2D(p.outline), { a: 1, d: -1 });
  else sheet.rect(0, 0, p.length, p.width);
  const left = new Path2D();
  for (const area of p.unreached) left.addPath(new Path2D(area), { a: 1, d: -1 });
  return {
    sheet,
    left,
    cuts: p.cuts.map((c) =>
      trace(
        p,
        own(c.first, c.last, (k) => k === CUT || k === MARK),
        new Path2D(),
      ),
    ),
    // what goes to the bed: over tabs it does not
    through: p.cuts.map((c) =>
      trace(p, p.z.length ? own(c.first, c.last, (k) => k === CUT).filter((i) => toTheBed(p, i)) : [], new Path2D()),
    ),
    rapids: trace(
      p,
      own(0, p.x.length, (k) => k === RAPID),
      new Path2D(),
    ),
  };
}

/** Of a cut under way, what of it is done. */
function partOf(p: ProgramOut, first: number, now: number, t: number): Path2D {
  const part = new Path2D();
  const own = Array.from({ length: Math.max(0, now - first) }, (_, n) => first + n).filter(
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
  return part;
}

/** What a bit has taken away so far, as wide as it is: through to the bed, or darker the deeper. */
function drawMilled(g: CanvasRenderingContext2D, p: ProgramOut, t: number, now: number, paths: Traced, colours: Colours) {
  g.save();
  g.lineCap = "round";
  g.lineJoin = "round";
  p.cuts.forEach((c, k) => {
    const done = p.t[c.last - 1] <= t;
    if (!done && now < c.first) return;
    g.strokeStyle = colours.shade;
    g.globalAlpha = 0.25 + 0.5 * Math.min(1, c.deep / p.thickness);
    g.lineWidth = c.wide;
    g.stroke(done ? paths.cuts[k] : partOf(p, c.first, now, t));
    if (!done || c.deep < p.thickness) return;
    g.strokeStyle = colours.bed;
    g.globalAlpha = 1;
    g.lineCap = "butt";
    g.stroke(paths.through[k]);
    g.lineCap = "round";
  });
  g.restore();
}

/** The places that are kept clear. */
function drawClamps(g: CanvasRenderingContext2D, p: ProgramOut, px: number, colours: Colours) {
  g.strokeStyle = colours.head;
  g.fillStyle = colours.head;
  g.lineWidth = px;
  for (const c of p.clamps) {
    g.globalAlpha = 0.35;
    g.fillRect(c.x, c.y, c.length, c.width);
    g.globalAlpha = 1;
    g.strokeRect(c.x, c.y, c.length, c.width);
  }
}

const colourOf = (operation: string, colours: Colours) =>
  operation === "mark"
    ? colours.mark
    : operation === "inside"
      ? colours.inside
      : operation === "outside"
        ? colours.outside
        : colours.depth;

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
  if (p.bits.length) drawMilled(g, p, t, now, paths, colours);
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
  g.fillStyle = colours.left;
  g.fill(paths.left);
  drawClamps(g, p, px, colours);
  g.strokeStyle = colours.rapid;
  g.lineWidth = px;
  g.setLineDash([4 * px, 4 * px]);
  g.stroke(paths.rapids);
  g.setLineDash([]);
  p.cuts.forEach((c, k) => {
    const done = p.t[c.last - 1] <= t;
    const colour = colourOf(c.operation, colours);
    g.strokeStyle = done ? colour : colours.coming;
    g.lineWidth = (done || c.key === lit ? 2.2 : 1.2) * px;
    g.stroke(paths.cuts[k]);
    if (!done && now >= c.first) {
      g.strokeStyle = colour;
      g.lineWidth = 2.2 * px;
      g.stroke(partOf(p, c.first, now, t));
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

/** Where pieces will be cut out later; `turned` is the length of a sheet that lies turned over, 0 of one that does not. */
export function drawOutlines(g: CanvasRenderingContext2D, outlines: string[], view: View, colours: Colours, turned: number) {
  g.save();
  g.translate(view.x, view.y);
  // what path data has downward lies upward here
  g.scale(turned ? -view.scale : view.scale, view.scale);
  if (turned) g.translate(-turned, 0);
  g.strokeStyle = colours.coming;
  g.lineWidth = 1.2 / view.scale;
  for (const d of outlines) g.stroke(new Path2D(d));
  g.restore();
}

/** The pieces' numbers, to be read from afar; `turned` is the length of a sheet that lies turned over, 0 of one that does not. */
export function drawNumbers(
  g: CanvasRenderingContext2D,
  numbers: { text: string; x: number; y: number; size: number; done: "" | "off" | "spoiled" }[],
  view: View,
  colours: Colours,
  turned: number,
) {
  g.save();
  g.textAlign = "center";
  g.textBaseline = "middle";
  for (const n of numbers) {
    const high = Math.max(13, Math.min(44, n.size * view.scale * 0.6));
    const x = view.x + (turned ? turned - n.x : n.x) * view.scale;
    const y = view.y - n.y * view.scale;
    g.font = `600 ${high}px "Archivo Variable", sans-serif`;
    const text = n.done === "off" ? `${n.text} ✓` : n.done === "spoiled" ? `${n.text} ✕` : n.text;
    const wide = g.measureText(text).width + high * 0.6;
    g.fillStyle = colours.loose;
    g.globalAlpha = 0.82;
    g.fillRect(x - wide / 2, y - high * 0.62, wide, high * 1.24);
    g.globalAlpha = 1;
    g.fillStyle = n.done === "spoiled" ? colours.outside : n.done === "off" ? colours.inside : colours.head;
    g.fillText(text, x, y);
  }
  g.restore();
}

// What a press on a paper means: what is selected by it, which named place is nearest, how far something was dragged.
import type { PaperAnchorOut, PaperOut } from "../api/types";
import type { Selection } from "../state/view";
import { readOwner } from "./owner";

/** What a press on ink selects: ink is of a part's instance or of an owner's id; nothing of what cannot be selected. */
export function selectedBy(of: string): Selection {
  if (!of) return null;
  const owner = readOwner(of);
  switch (owner.kind) {
    case "part":
    case "joint":
    case "bore":
    case "frame":
    case "size":
      return { kind: owner.kind, key: owner.key };
    case "feature":
    case "flange":
      return { kind: owner.kind, part: owner.part, key: owner.key };
    case "bend":
      return { kind: "flange", part: owner.part, key: owner.key };
    case "edge":
    case "stock":
      return null;
    default:
      return of.includes(":") ? null : { kind: "part", key: of };
  }
}

/** Whether ink is of what is lit: of a lit part where it was selected as such, else of the very thing that is selected. */
export function isLit(of: string, lit: readonly string[], selection: Selection): boolean {
  if (!of) return false;
  const own = selectedBy(of);
  if (own?.kind === "part")
    return lit.includes(own.key) && !["feature", "flange", "bore", "joint"].includes(selection?.kind ?? "");
  if (!own || !selection || own.kind !== selection.kind) return false;
  if ("part" in own && "part" in selection) return own.part === selection.part && own.key === selection.key;
  return "key" in own && "key" in selection && own.key === selection.key;
}

export type Near = { view: string; anchor: PaperAnchorOut };

/** The named place nearest to a point of the paper (mm), no farther than `most`: points first, then lines, which are met anywhere along them near their view. */
export function nearest(paper: PaperOut, x: number, y: number, most: number): Near | null {
  let best: Near | null = null;
  let least = most;
  for (const [view, anchors] of Object.entries(paper.anchors)) {
    const xs = anchors.map((a) => a.x);
    const ys = anchors.map((a) => a.y);
    const within = x > Math.min(...xs) - 12 && x < Math.max(...xs) + 12 && y > Math.min(...ys) - 12 && y < Math.max(...ys) + 12;
    if (!within) continue;
    for (const anchor of anchors) {
      const far =
        anchor.along === "both"
          ? Math.hypot(anchor.x - x, anchor.y - y)
          : Math.abs(anchor.along === "x" ? anchor.x - x : anchor.y - y) + 0.5;
      if (far < least) {
        least = far;
        best = { view, anchor };
      }
    }
  }
  return best;
}

/** In which way a dimension between two places measures when its line is put at a point: beside both it is level or upright, else straight. */
export function wayBetween(a: PaperAnchorOut, b: PaperAnchorOut, x: number, y: number): "x" | "y" | "straight" {
  if (a.along !== "both" || b.along !== "both") return a.along === "x" || b.along === "x" ? "x" : "y";
  const [x0, x1, y0, y1] = [Math.min(a.x, b.x), Math.max(a.x, b.x), Math.min(a.y, b.y), Math.max(a.y, b.y)];
  const beside = x >= x0 && x <= x1;
  const between = y >= y0 && y <= y1;
  if (x1 - x0 < 0.01) return "y";
  if (y1 - y0 < 0.01) return "x";
  if (beside && !between) return "x";
  if (between && !beside) return "y";
  return "straight";
}

/** How far its line stands off, mm on the paper: over 0 below, to the left, or to the right of the way from one place to the other. */
export function standsOff(a: PaperAnchorOut, b: PaperAnchorOut, way: "x" | "y" | "straight", x: number, y: number): number {
  const rounded = (v: number) => Math.round(v * 2) / 2 || 0.5;
  if (way === "x") return y > Math.max(a.y, b.y) ? rounded(y - Math.max(a.y, b.y)) : rounded(y - Math.min(a.y, b.y));
  if (way === "y") return x < Math.min(a.x, b.x) ? rounded(Math.min(a.x, b.x) - x) : rounded(Math.max(a.x, b.x) - x);
  const long = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  // to the right of the way, as seen with y upward
  return rounded(((y - a.y) * (b.x - a.x) - (x - a.x) * (b.y - a.y)) / long);
}

/** The revision after those that were issued, the newest first: the next letter, the next number, else A. */
export function nextRevision(issued: string[]): string {
  const last = issued[0] ?? "";
  if (/^\d+$/.test(last)) return String(Number(last) + 1);
  if (!/^[A-Y]$/.test(last)) return last === "Z" ? "AA" : "A";
  return String.fromCharCode(last.charCodeAt(0) + 1);
}

// The first board of a design, while it is drawn on the ground.
import { FRAME } from "../lib/document";
import { distanceOf, type Vec } from "../lib/ghost";
import { useDesign } from "./design";
import type { PlacingState } from "./placing";

/** The first board between two corners, in mm; null while there is only one, or where it has no size. Figures typed as 300 x 200 set its size. */
export function firstBox({
  corner,
  reach,
  plane,
  typed,
}: Pick<PlacingState, "corner" | "reach" | "plane" | "typed">): { low: Vec; high: Vec } | null {
  if (!corner) return null;
  const { u, v } = FRAME[plane];
  const unit = useDesign.getState().doc?.unit ?? "mm";
  const figures = typed.split(/[x×]/).map((t) => distanceOf(t, unit));
  const to = [...(reach ?? corner)] as Vec;
  [u, v].forEach((a, k) => {
    const i = "xyz".indexOf(a);
    const figure = figures[k];
    if (figure !== null && figure !== undefined) to[i] = corner[i] + figure * (to[i] < corner[i] ? -1 : 1);
  });
  const low = corner.map((x, i) => Math.min(x, to[i])) as Vec;
  const high = corner.map((x, i) => Math.max(x, to[i])) as Vec;
  return [u, v].every((a) => high["xyz".indexOf(a)] - low["xyz".indexOf(a)] >= 1) ? { low, high } : null;
}

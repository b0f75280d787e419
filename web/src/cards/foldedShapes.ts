// Shapes that a folded part is often begun with: which flanges stand on a plate whose spans are its outer sizes.
import { type Entry, FACES, type Flange, FRAME, type Plane } from "../lib/document";

export type Shape = "flat" | "angle" | "channel" | "hat" | "zed" | "sill" | "tray";

export const SHAPES: { value: Shape; label: string }[] = [
  { value: "flat", label: "not bent" },
  { value: "angle", label: "angle: one flange" },
  { value: "channel", label: "channel: two flanges, the same way" },
  { value: "hat", label: "hat: a channel with brims" },
  { value: "zed", label: "zed: two flanges, opposite ways" },
  { value: "sill", label: "sill: upstand, nose and drip" },
  { value: "tray", label: "tray: four flanges" },
];

/** Whether a shape has a second length: brims, upstand or drip. */
export const hasLip = (shape: Shape) => shape === "hat" || shape === "sill";

/** The flanges of a shape by key: `length` is each flange's outer length, `lip` that of brims or upstand; bends run along `along`. */
export function shapeOf(shape: Shape, plane: Plane, along: "u" | "v", length: Entry, lip: Entry): Record<string, unknown> {
  const frame = FRAME[plane];
  const [low, high] = FACES[frame[along === "u" ? "v" : "u"]];
  const flanges: Record<string, unknown> = {};
  const add = (edge: string, more: Partial<Flange> & Record<string, unknown> = {}) => {
    const key = more.on ? `${more.on}_lip` : edge;
    flanges[key] = { kind: "flange", edge, length, order: Object.keys(flanges).length, ...more };
  };
  if (shape === "angle") add(high);
  if (shape === "channel" || shape === "hat") for (const e of [low, high]) add(e);
  if (shape === "hat") for (const e of [low, high]) add("end", { on: e, toward: "b", length: lip, name: `${e} brim` });
  if (shape === "zed") {
    add(low, { toward: "b" });
    add(high);
  }
  if (shape === "sill") {
    const down = { text: "90 deg", unit: length.unit };
    const drip = { text: "-45 deg", unit: length.unit };
    const legs = [
      { length, angle: down },
      { length: lip, angle: drip },
    ];
    flanges[low] = { kind: "profile", edge: low, toward: "b", legs, order: 0, name: "nose" };
    add(high, { length: lip, name: "upstand" });
  }
  if (shape === "tray") for (const e of [...FACES[frame.u], ...FACES[frame.v]]) add(e);
  return flanges;
}

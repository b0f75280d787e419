// A feature dragged on its face: what each of its two offsets comes to be, free or caught, and how far it is from what lies about it.
import type { FeaturePullOut, MarkOut } from "../api/types";
import { stepOf } from "./ghost";
import { withConstant } from "./pulls";

/** So near (in pixels) it catches. */
const NEAR = 8;

export type Dragged = {
  /** where it is along its way, in mm from the board's low end */
  value: number;
  origin: string;
  text: string;
  /** what it caught on, else '' */
  caught: string;
};

const stays = (pull: FeaturePullOut): Dragged => ({
  value: pull.value,
  origin: pull.origin,
  text: withConstant(pull, pull.constant),
  caught: "",
});

/** Dragged to a place exactly. */
export function draggedTo(pull: FeaturePullOut, place: number): Dragged {
  return { ...stays(pull), value: place, text: withConstant(pull, pull.constant + pull.sign * (place - pull.value)) };
}

/** Dragged by so many mm, of which ``scale`` are a pixel. With `replace` a catch takes the place of an expression too. */
export function draggedBy(pull: FeaturePullOut, by: number, scale: number, unit: "mm" | "in", replace = false): Dragged {
  const wanted = pull.value + by;
  const near = pull.marks
    .filter((m) => !m.edge && Math.abs(m.value - wanted) <= NEAR * scale)
    .sort((a, b) => Math.abs(a.value - wanted) - Math.abs(b.value - wanted))[0];
  if (near && Math.abs(near.value - pull.value) > 1e-6) {
    if (pull.whole || replace) return { value: near.value, origin: near.origin, text: near.text, caught: near.words };
    return { ...draggedTo(pull, near.value), caught: near.words };
  }
  const step = stepOf(scale, unit);
  const constant = Math.round((pull.constant + pull.sign * by) / step) * step;
  return {
    ...stays(pull),
    value: pull.value + pull.sign * (constant - pull.constant),
    text: withConstant(pull, constant),
  };
}

/** The distances that are shown along one way: to both edges, and to the next other thing on either side. */
export function distances(pull: FeaturePullOut, value: number): (MarkOut & { mm: number })[] {
  const found = pull.marks.map((m) => ({ ...m, mm: Math.abs(value - m.value) }));
  const edges = found.filter((m) => m.edge);
  const others = found.filter((m) => !m.edge && m.words.startsWith("in line") && m.mm > 0.01);
  const side = (sign: 1 | -1) => others.filter((m) => (m.value - value) * sign > 0).sort((a, b) => a.mm - b.mm)[0];
  return [...edges, ...[side(-1), side(1)].filter((m) => m !== undefined)];
}

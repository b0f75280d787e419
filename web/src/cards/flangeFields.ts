// The words of flanges: edges, kinds and choices, and what a new one begins with.
import { type Board, FACES, type Flange, type Folding, FRAME, freshKey, nextOrder } from "../lib/document";
import { words } from "../state/shape";

export const KINDS = [
  { value: "flange", label: "flange" },
  { value: "hem", label: "hem: folded back on itself" },
  { value: "offset", label: "offset bend: steps aside" },
];
export const EXTENTS = [
  { value: "whole", label: "the whole edge" },
  { value: "inset", label: "inset from both ends" },
  { value: "centred", label: "centred, of a width" },
  { value: "between", label: "between two places on the edge" },
  { value: "room", label: "between two places in the room" },
];
export const EXTENT_WORDS: Record<string, [string, string]> = {
  inset: ["From the low end", "From the high end"],
  centred: ["Width", "Off the middle by"],
  between: ["From", "To"],
  room: ["From", "To"],
};
export const CORNERS = [
  { value: "closed", label: "closed, with a gap" },
  { value: "open", label: "open" },
  { value: "a_covers", label: "the first covers the next" },
  { value: "b_covers", label: "the next covers the first" },
];
export const RELIEFS = [
  { value: "rectangular", label: "rectangular" },
  { value: "round", label: "round-ended" },
  { value: "tear", label: "slit" },
  { value: "none", label: "none" },
];
export const MEASURED = [
  { value: "outer", label: "to the outer sharp" },
  { value: "inner", label: "to the inner sharp" },
  { value: "tangent", label: "to the end of the bend" },
];
export const WHERE = [
  { value: "outside", label: "flush outside" },
  { value: "inside", label: "flush inside" },
  { value: "edge", label: "bend starts at the edge" },
];

/** What a flange is called: its own name, or its edge and kind. */
export function flangeName(flange: Flange): string {
  const kind = { flange: "flange", hem: "hem", offset: "offset bend" }[flange.kind];
  return flange.name || `${flange.edge} ${kind}`;
}

/** The edges that something can stand on: of the plate, or the ends and sides of the flanges; the values are 'FLANGE/EDGE'. */
export function edgesOf(board: Board): { value: string; label: string }[] {
  const frame = FRAME[board.plane];
  const plate = [...FACES[frame.u], ...FACES[frame.v]].map((e) => ({ value: `/${e}`, label: `${e} edge of the plate` }));
  const sides: [string, string][] = [
    ["end", "far edge"],
    ["low", "low side"],
    ["high", "high side"],
  ];
  const others = Object.entries(board.folding?.flanges ?? {})
    .filter(([, f]) => f.kind !== "hem" && !f.out)
    .flatMap(([k, f]) => sides.map(([e, w]) => ({ value: `${k}/${e}`, label: `${w} of ${words(flangeName(f))}` })));
  return [...plate, ...others];
}

/** A new flange on an edge ('FLANGE/EDGE'), with its key. */
export function newFlange(folding: Folding | undefined, kind: Flange["kind"], edge: string, length: string, height: string) {
  const [on, name] = edge.split("/");
  const flanges = folding?.flanges ?? {};
  const entry = (text: string) => ({ text, unit: "mm" });
  const key = freshKey(flanges, on ? `${on}_${name}` : name);
  const toward = on ? flanges[on].toward : "a";
  const value = {
    kind,
    edge: name,
    on,
    toward,
    length: entry(length),
    order: nextOrder(flanges),
    ...(kind === "offset" ? { height: entry(height) } : {}),
  };
  return { key, value };
}

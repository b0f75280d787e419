// The words of flanges: edges, kinds and choices, and what a new one begins with.
import { FACES, type Flange, type Folding, FRAME, freshKey, nextOrder, type PlatePart } from "../lib/document";
import { fresh } from "../state/design";
import { words } from "../state/shape";

export const KINDS = [
  { value: "flange", label: "flange" },
  { value: "hem", label: "hem: folded back on itself" },
  { value: "offset", label: "offset bend: steps aside" },
  { value: "profile", label: "profile: a line of bends" },
  { value: "tab", label: "locking tab: with slot and hole" },
  { value: "line", label: "bend line across what is flat" },
];
/** Where a flange stands once more, in the words of the plate as it lies. */
export function halves(board: PlatePart): { value: string; label: string }[] {
  const frame = FRAME[board.plane];
  return [
    { value: "none", label: "stands once" },
    ...(["u", "v"] as const).map((value) => ({ value, label: `mirrored, ${FACES[frame[value]].join(" and ")}` })),
  ];
}
export const PROFILE_MEASURED = [
  { value: "outer", label: "to the outer sharps" },
  { value: "inner", label: "to the inner sharps" },
  { value: "tangent", label: "to the ends of the bends" },
  { value: "face_a", label: "along face A, thickness behind it" },
  { value: "face_b", label: "along face B, thickness behind it" },
];
export const EXTENTS = [
  { value: "whole", label: "the whole edge" },
  { value: "inset", label: "inset from both ends" },
  { value: "centred", label: "centred, of a width" },
  { value: "between", label: "between two places on the edge" },
  { value: "room", label: "between two places in the room" },
];
/** The labels of an extent's two entries; `ends` are the words at the low and the high end of its edge. */
export function extentWords(extent: string, [low, high]: string[]): [string, string] | undefined {
  return (
    {
      inset: [`From the ${low} end`, `From the ${high} end`],
      centred: ["Width", `Off the middle, to the ${high}`],
      between: [`Begins, from the ${low} end`, `Ends, from the ${low} end`],
      room: ["From", "To"],
    } as Record<string, [string, string]>
  )[extent];
}
export const CORNERS = [
  { value: "closed", label: "closed, with a gap" },
  { value: "open", label: "open" },
  { value: "a_covers", label: "the first covers the next" },
  { value: "b_covers", label: "the next covers the first" },
];
export const CORNER_SHAPES = [
  { value: "round", label: "round" },
  { value: "chamfer", label: "chamfer" },
];
export const CROSSINGS = [
  { value: "none", label: "nothing is cut out" },
  { value: "round", label: "a round relief" },
  { value: "square", label: "a square relief" },
];
export const RELIEFS = [
  { value: "rectangular", label: "rectangular" },
  { value: "round", label: "round-ended" },
  { value: "tear", label: "slit" },
  { value: "none", label: "none" },
];
export const MADE = [
  { value: "bends", label: "bend by bend" },
  { value: "tool", label: "by the offset tool" },
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

/** What a flange is called, here as in every message: its own name, what its key says more than its edge, or its edge and kind. */
export function flangeName(key: string, flanges: Record<string, Flange>): string {
  const flange = flanges[key];
  if (flange?.name) return flange.name;
  if (!flange || ![flange.edge, `${flange.on}_${flange.edge}`].includes(key.replace(/_\d+$/, ""))) return key;
  const kind = { flange: "flange", hem: "hem", offset: "offset bend", profile: "profile", line: "bend line" }[flange.kind];
  const own = `${flange.edge} ${kind}`;
  return flange.on && flange.on !== key ? `${own} of ${flangeName(flange.on, flanges)}` : own;
}

/** The edges that something can stand on: of the plate, or the ends and sides of the flanges; the values are 'FLANGE/EDGE'. */
export function edgesOf(board: PlatePart): { value: string; label: string }[] {
  const frame = FRAME[board.plane];
  const plate = [...FACES[frame.u], ...FACES[frame.v]].map((e) => ({ value: `/${e}`, label: `${e} edge of the plate` }));
  const sides: [string, string][] = [
    ["end", "far edge"],
    ["low", "low side"],
    ["high", "high side"],
  ];
  const others = Object.entries(board.folding?.flanges ?? {})
    .filter(([, f]) => f.kind !== "hem" && !f.out)
    .flatMap(([k]) =>
      sides.map(([e, w]) => ({ value: `${k}/${e}`, label: `${w} of ${words(flangeName(k, board.folding!.flanges))}` })),
    );
  const cuts = [
    { value: "/cut_low", label: "edge at which it begins" },
    { value: "/cut_high", label: "edge at which it ends" },
  ].filter((_, i) => board.folding?.split?.[i ? "high" : "low"]);
  return [...plate, ...cuts, ...others];
}

/** A new flange on an edge ('FLANGE/EDGE'), with its key. */
export function newFlange(
  folding: Folding | undefined,
  kind: Flange["kind"] | "tab",
  edge: string,
  length: string,
  height: string,
) {
  const [on, name] = edge.split("/");
  const flanges = folding?.flanges ?? {};
  const entry = fresh;
  const key = freshKey(flanges, on ? `${on}_${name}` : name);
  const toward = on ? flanges[on].toward : "a";
  const centre = { origin: "centre", offset: entry("0") };
  const own: Record<string, unknown> = {
    flange: { length: entry(length) },
    hem: { length: entry(length) },
    offset: { length: entry(length), height: entry(height) },
    line: { at: entry(length) },
    profile: {
      legs: [
        { length: entry(length), angle: entry("90 deg") },
        { length: entry("12 mm"), angle: entry("90 deg") },
      ],
    },
    // a partial flange that is pushed through a slot and locked: rounded corners, a slot near its root, a hole for a pin or screw
    tab: {
      length: entry("22 mm"),
      extent: "centred",
      first: entry("30 mm"),
      rounding: entry("4 mm"),
      features: {
        slot: {
          kind: "slot",
          name: "slot",
          order: 0,
          u: centre,
          v: { origin: "root", offset: entry("7 mm") },
          length: entry("16 mm"),
          width: entry("3 mm"),
        },
        hole: {
          kind: "hole",
          name: "hole",
          order: 1,
          u: centre,
          v: { origin: "end", offset: entry("7 mm") },
          diameter: entry("4.5 mm"),
        },
      },
    },
  }[kind] as Record<string, unknown>;
  const value = {
    kind: kind === "tab" ? "flange" : kind,
    edge: name,
    on,
    toward,
    order: nextOrder(flanges),
    ...(kind === "tab" ? { name: `${name} locking tab` } : {}),
    ...own,
  };
  return { key, value };
}

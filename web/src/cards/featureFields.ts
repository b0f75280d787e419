// The entries of each kind of feature, and what they begin with when one is drafted.
import { type Axis, type Board, FACES, FRAME } from "../lib/document";

export type FeatureEntry = {
  field: string;
  label: string;
  kind?: string;
  first: string;
  optional?: boolean;
  placeholder?: string;
};

const angle: FeatureEntry = { field: "angle", label: "Turned by", kind: "angle", first: "0 deg" };
const depth: FeatureEntry = { field: "depth", label: "Depth", first: "5 mm" };

export const FIELDS: Record<string, FeatureEntry[]> = {
  hole: [
    { field: "diameter", label: "Diameter", first: "20 mm" },
    { field: "depth", label: "Depth", first: "", optional: true, placeholder: "straight through" },
  ],
  edge_hole: [
    { field: "diameter", label: "Diameter", first: "6 mm" },
    { field: "depth", label: "Depth", first: "20 mm" },
    { field: "height", label: "Height in the edge", first: "", optional: true, placeholder: "middle" },
  ],
  slot: [
    { field: "length", label: "Length, over all", first: "80 mm" },
    { field: "width", label: "Width", first: "20 mm" },
    angle,
  ],
  rectangle: [
    { field: "width", label: "Width", first: "20 mm" },
    { field: "height", label: "Height", first: "20 mm" },
    { field: "radius", label: "Corner radius", first: "3 mm" },
    angle,
  ],
  hand_hold: [
    { field: "length", label: "Length, over all", first: "100 mm" },
    { field: "width", label: "Width", first: "30 mm" },
  ],
  pocket: [
    { field: "width", label: "Width", first: "60 mm" },
    { field: "height", label: "Height", first: "30 mm" },
    depth,
    { field: "radius", label: "Corner radius", first: "3 mm" },
    angle,
  ],
  groove: [
    { field: "width", label: "Width", first: "6 mm" },
    depth,
    { field: "length", label: "Length", first: "", optional: true, placeholder: "edge to edge" },
  ],
  rebate: [
    { field: "width", label: "Width from the edge", first: "10 mm" },
    depth,
    { field: "stop_low", label: "Stops before LOW by", first: "0" },
    { field: "stop_high", label: "Stops before HIGH by", first: "0" },
  ],
  mark_line: [{ field: "length", label: "Length", first: "80 mm" }, angle],
  mark_circle: [{ field: "diameter", label: "Diameter", first: "20 mm" }],
  mark_text: [{ field: "height", label: "Letter height", first: "12 mm" }],
};

export type FeatureChoice = { field: string; label: string; data: { value: string; label: string }[] };

/** The choices of a kind on a board: which edge, along which way. */
export function choicesOf(kind: string, board: Board): FeatureChoice[] {
  const frame = FRAME[board.plane];
  const edges = [...FACES[frame.u], ...FACES[frame.v]].map((e) => ({ value: e, label: `${e} edge` }));
  if (kind === "rebate" || kind === "edge_hole") return [{ field: "edge", label: "In its", data: edges }];
  if (kind === "groove")
    return [
      {
        field: "along",
        label: "Runs",
        data: (["u", "v"] as const).map((n) => ({ value: n, label: `${FACES[frame[n]][0]} to ${FACES[frame[n]][1]}` })),
      },
    ];
  return [];
}

/** A label with the ends of the edge that a rebate runs along. */
export function labelOf(entry: FeatureEntry, board: Board, edge: string): string {
  const frame = FRAME[board.plane];
  const run = FACES[frame.u].includes(edge) ? frame.v : frame.u;
  return entry.label.replace("LOW", FACES[run][0]).replace("HIGH", FACES[run][1]);
}

/** Along which of u and v a feature has a place of its own. */
export function placedAlong(kind: string, board: Board, feature: { [field: string]: unknown }): ("u" | "v")[] {
  const frame = FRAME[board.plane];
  if (kind === "rebate") return [];
  if (kind === "edge_hole") return FACES[frame.u].includes(String(feature.edge)) ? ["v"] : ["u"];
  if (kind === "groove" && !feature.length) return feature.along === "v" ? ["u"] : ["v"];
  return ["u", "v"];
}

export function origins(axis: Axis): { value: string; label: string }[] {
  const [low, high] = FACES[axis];
  return [
    { value: low, label: `from its ${low}` },
    { value: high, label: `from its ${high}` },
    { value: "centre", label: "from its centre" },
    { value: "opening", label: "from the opening's centre" },
    { value: "room", label: "at a place in the room" },
  ];
}

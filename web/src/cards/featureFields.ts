// The entries of each kind of feature, and what they begin with when one is drafted.
import { type Axis, FACES, FRAME, type PlatePart } from "../lib/document";

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
  perforation: [
    { field: "width", label: "Field's width", first: "80 mm" },
    { field: "height", label: "Field's height", first: "40 mm" },
    { field: "diameter", label: "Hole", first: "5 mm" },
    { field: "pitch", label: "Pitch", first: "8 mm" },
    { field: "edge_distance", label: "Edge to a hole", first: "0" },
  ],
  fan: [
    { field: "opening", label: "Opening", first: "76 mm" },
    { field: "pitch", label: "Between screws", first: "71.5 mm" },
    { field: "diameter", label: "Screw hole", first: "4.5 mm" },
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
  corner: [
    { field: "size", label: "Radius or length", first: "20 mm" },
    { field: "size_2", label: "Other length", first: "", optional: true, placeholder: "the same" },
  ],
  taper: [
    { field: "low", label: "Off at its LOW end", first: "0" },
    { field: "high", label: "Off at its HIGH end", first: "20 mm" },
  ],
  edge_curve: [{ field: "rise", label: "Rise of the arc", first: "15 mm" }],
  edge_notch: [
    { field: "width", label: "Width", first: "30 mm" },
    { field: "depth", label: "Depth", first: "15 mm" },
    { field: "radius", label: "Corner radius", first: "0" },
  ],
  trim: [{ field: "at", label: "Plane at", first: "0" }],
  mark_line: [{ field: "length", label: "Length", first: "80 mm" }, angle],
  mark_circle: [{ field: "diameter", label: "Diameter", first: "20 mm" }],
  mark_text: [{ field: "height", label: "Letter height", first: "12 mm" }],
};

export type FeatureChoice = { field: string; label: string; data: { value: string; label: string }[] };

/** The choices of a kind on a board: which edge, along which way. */
export function choicesOf(kind: string, board: PlatePart): FeatureChoice[] {
  const frame = FRAME[board.plane];
  const edges = [...FACES[frame.u], ...FACES[frame.v]].map((e) => ({ value: e, label: `${e} edge` }));
  if (kind === "rebate" || kind === "edge_hole") return [{ field: "edge", label: "In its", data: edges }];
  const pick = (field: string, label: string, ...data: [string, string][]) => ({
    field,
    label,
    data: data.map(([value, text]) => ({ value, label: text })),
  });
  if (kind === "perforation")
    return [
      pick("pattern", "Rows", ["staggered", "staggered by 60°"], ["square", "square"]),
      pick("field", "Fills", ["rectangle", "a rectangle"], ["round", "a circle of its width"]),
      pick("hole", "Holes", ["round", "round"], ["square", "square"]),
    ];
  if (kind === "corner")
    return [
      {
        field: "corner",
        label: "Which",
        data: [
          { value: "all", label: "all corners" },
          ...FACES[frame.v].flatMap((v) => FACES[frame.u].map((u) => ({ value: `${v}-${u}`, label: `${v} ${u} corner` }))),
        ],
      },
      pick("style", "How", ["round", "rounded"], ["cut", "cut off straight"], ["hollow", "hollowed"], ["step", "stepped back"]),
    ];
  if (kind === "taper") return [{ field: "edge", label: "Which", data: edges }];
  if (kind === "edge_curve")
    return [{ field: "edge", label: "Which", data: edges }, pick("bulge", "How", ["in", "hollow"], ["out", "crowned"])];
  if (kind === "edge_notch")
    return [
      { field: "edge", label: "In its", data: edges },
      pick("shape", "Shape", ["square", "square"], ["round", "round"], ["vee", "vee"]),
    ];
  if (kind === "trim")
    return [
      pick("axis", "Plane across", ["z", "bottom to top"], ["y", "front to back"], ["x", "left to right"]),
      pick("side", "Cuts off", ["low", "the low side"], ["high", "the high side"]),
    ];
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
export function labelOf(entry: FeatureEntry, board: PlatePart, edge: string): string {
  const frame = FRAME[board.plane];
  const run = FACES[frame.u].includes(edge) ? frame.v : frame.u;
  return entry.label.replace("LOW", FACES[run][0]).replace("HIGH", FACES[run][1]);
}

/** Along which of u and v a feature has a place of its own. */
export function placedAlong(kind: string, board: PlatePart, feature: { [field: string]: unknown }): ("u" | "v")[] {
  const frame = FRAME[board.plane];
  if (["rebate", "corner", "taper", "edge_curve", "trim"].includes(kind)) return [];
  if (kind === "edge_hole" || kind === "edge_notch") return FACES[frame.u].includes(String(feature.edge)) ? ["v"] : ["u"];
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

/** What is on the other half too. */
export function mirroredChoices(board: PlatePart): { value: string; label: string }[] {
  const frame = FRAME[board.plane];
  const [u, v] = [FACES[frame.u], FACES[frame.v]].map(([low, high]) => `${low} and ${high}`);
  return [
    { value: "none", label: "once" },
    { value: "u", label: `mirrored, ${u}` },
    { value: "v", label: `mirrored, ${v}` },
    { value: "both", label: "in all four quarters" },
  ];
}

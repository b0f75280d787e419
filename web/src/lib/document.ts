// The document as the interface reads it. The rules of what may stand in it are the core's; its JSON Schema is in docs/.
export type Entry = { text: string; unit: "mm" | "in" };
export type Display = "mm" | "in" | "fraction";
export type Axis = "x" | "y" | "z";
export type Plane = "facing_front" | "facing_side" | "lying";

export type Size = {
  name: string;
  kind: "length" | "angle" | "count" | "number";
  entry: Entry;
  low?: Entry;
  high?: Entry;
  note: string;
  order: number;
};
export type Spot = { origin: string; offset: Entry };
export type Feature = {
  kind: string;
  name: string;
  order: number;
  face?: string;
  u: Spot;
  v: Spot;
  text?: string;
  [field: string]: unknown;
};
export type Board = {
  kind: "board";
  name: string;
  order: number;
  made: "cut" | "bought";
  aside?: boolean;
  stock: string;
  quantity: number;
  plane: Plane;
  position: { face: string; at: Entry };
  spans: Partial<Record<Axis, { low: Entry; high: Entry }>>;
  up: "a" | "b";
  grain: "free" | "u" | "v";
  features: Record<string, Feature>;
  price: number;
};
export type Item = { kind: "item"; name: string; order: number; made: "bought"; quantity: number; price: number; note: string };
export type Part = Board | Item;
export type Tab = { at: Entry; length: Entry };
/** A joint's own entries differ by kind; what they are is said by the core (`state/joints.ts`). */
export type Joint = {
  kind: string;
  a: string;
  b: string;
  order: number;
  fit: Entry;
  count?: Entry;
  pitch?: Entry;
  tabs?: Record<string, Tab>;
  [field: string]: unknown;
};
export type Bore = {
  name: string;
  order: number;
  axis: Axis;
  at: Partial<Record<Axis, Entry>>;
  diameter: Entry;
  parts: Record<string, { action: "cut" | "mark" | "leave"; fit: Entry }>;
};
export type SheetSize = { length: Entry; width: Entry; price: number; roll: boolean; order: number };
export type Stock = {
  name: string;
  material: string;
  nominal: Entry;
  measured?: Entry;
  gauge?: string;
  sheets: Record<string, SheetSize>;
  grain: "none" | "along";
  turn: "none" | "180" | "90";
  density: number;
  tint: string;
  hatch: string;
  order: number;
};
export type LayerRecord = { name: string; colour: string; line_width: number };
export type Cutter = {
  name: string;
  kind: "laser" | "router" | "saw";
  kerf: Entry;
  bit?: Entry;
  pass_depth?: Entry;
  smallest: Entry;
  bed_length: Entry;
  bed_width: Entry;
  travel: number;
  hourly: number;
  work: Record<string, { cut_speed: number; mark_speed: number; pierce: number; kerf?: Entry }>;
  layers: Record<"mark" | "depth" | "inside" | "outside" | "drill" | "note", LayerRecord>;
  order: number;
};
export type FitTable = {
  stock: string;
  cutter: string;
  press: Entry;
  snug: Entry;
  slip: Entry;
  loose: Entry;
  tested_kerf?: number;
};
export type TestPiece = { stock: string; cutter: string; parts: string[]; kerf: number } & (
  | { kind: "comb"; clearances: number[] }
  | { kind: "kerf"; squares: number; side: number; play: number }
);
export type HelpMarks = { numbers: boolean; mates: boolean; inside: boolean; grain: boolean; height: Entry };
export type Doc = {
  schema: number;
  name: string;
  note: string;
  unit: "mm" | "in";
  display: Display;
  currency: string;
  sizes: Record<string, Size>;
  stocks: Record<string, Stock>;
  cutters: Record<string, Cutter>;
  cutter: string;
  fits: Record<string, FitTable>;
  parts: Record<string, Part>;
  joints: Record<string, Joint>;
  bores: Record<string, Bore>;
  kept: Record<string, unknown>;
  tests: Record<string, TestPiece>;
  marks: HelpMarks;
  rules: { finger: number; web: number; edge: number; floor: number };
  nest: { gap: Entry; margin: Entry; seed: number; seconds: number };
};

/** A JSON pointer from its keys. */
export function pointer(...keys: string[]): string {
  return keys.map((k) => `/${k.replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");
}

/** What stands at a pointer, or undefined. */
export function at(data: unknown, path: string): unknown {
  let node = data;
  for (const raw of path.split("/").slice(1)) {
    const key = raw.replaceAll("~1", "/").replaceAll("~0", "~");
    if (node === null || typeof node !== "object") return undefined;
    node = (node as Record<string, unknown>)[key];
  }
  return node;
}

/** Records of a map in their order. */
export function ordered<T extends { order: number }>(records: Record<string, T>): [string, T][] {
  return Object.entries(records).sort((a, b) => a[1].order - b[1].order || a[0].localeCompare(b[0]));
}

/** A key that the map does not have yet, readable where it can be. */
export function freshKey(records: Record<string, unknown>, wish: string): string {
  const base = wish.replace(/[^A-Za-z0-9_-]/g, "").slice(0, 30) || "k";
  if (!(base in records)) return base;
  for (let n = 2; ; n++) if (!(`${base}_${n}` in records)) return `${base}_${n}`;
}

/** Next number in order for a map of records. */
export function nextOrder(records: Record<string, { order: number }>): number {
  return Math.max(-1, ...Object.values(records).map((r) => r.order)) + 1;
}

export const FRAME: Record<Plane, { u: Axis; v: Axis; normal: Axis; words: string }> = {
  facing_front: { u: "x", v: "z", normal: "y", words: "upright, facing front" },
  facing_side: { u: "y", v: "z", normal: "x", words: "upright, facing the side" },
  lying: { u: "x", v: "y", normal: "z", words: "lying" },
};
export const FACES: Record<Axis, [string, string]> = { x: ["left", "right"], y: ["front", "back"], z: ["bottom", "top"] };
export const FEATURE_WORDS: Record<string, string> = {
  hole: "Hole",
  edge_hole: "Hole in an edge",
  slot: "Slot",
  rectangle: "Rectangle",
  hand_hold: "Hand hold",
  pocket: "Pocket",
  groove: "Groove",
  rebate: "Rebate along an edge",
  mark_line: "Engraved line",
  mark_circle: "Engraved circle",
  mark_text: "Engraved text",
};

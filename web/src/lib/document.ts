// The document as the interface reads it. The rules of what may stand in it are the core's; its JSON Schema is in docs/.
export type Entry = { text: string; unit: "mm" | "in" };
export type Display = "mm" | "in" | "fraction";
export type Axis = "x" | "y" | "z";
export type Plane = "facing_front" | "facing_side" | "lying";

export type Size = {
  name: string;
  kind: "length" | "angle" | "count" | "number";
  entry: Entry;
  measured?: { a: Place; b: Place; along: "x" | "y" | "z" | "straight" | "angle" };
  low?: Entry;
  high?: Entry;
  note: string;
  order: number;
};
/** Something to measure from or to: a part, a face, an edge, its centre, or a feature's middle. */
export type Place = { part: string; what: "part" | "face" | "edge" | "centre" | "feature"; name: string };
export type Turn = { order: number; axis: Axis; at: Partial<Record<Axis, Entry>>; angle: Entry };
export type Group = {
  name: string;
  order: number;
  parent: string;
  move: Partial<Record<Axis, Entry>>;
  turns: Record<string, Turn>;
  out: boolean;
};
export type CopyKind = "mirror" | "row" | "grid" | "ring";
export type Copy = {
  kind: CopyKind;
  name: string;
  order: number;
  of: string[];
  out: boolean;
  spared: Record<string, string[]>;
  axis: Axis;
  names?: Record<string, string>;
  [field: string]: unknown;
};
export type Clearance = {
  name: string;
  order: number;
  a: Place;
  b: Place;
  along: "shortest" | Axis;
  least?: Entry;
  most?: Entry;
  out: boolean;
};
export type Outline = { kind: "disc" | "ring" | "link" | "drawn" | "traced"; [field: string]: unknown };
export type Spot = { origin: string; offset: Entry };
export type Feature = {
  kind: string;
  name: string;
  order: number;
  out?: boolean;
  face?: string;
  u: Spot;
  v: Spot;
  text?: string;
  [field: string]: unknown;
};
/** What stands on an edge of a folded part's plate, or of another flange: a flange, a hem, an offset bend, a profile, or a line across what is flat. */
export type Flange = {
  kind: "flange" | "hem" | "offset" | "profile" | "line";
  name: string;
  order: number;
  out: boolean;
  on: string;
  edge: string;
  toward: "a" | "b";
  length: Entry;
  radius?: Entry;
  extent: "whole" | "inset" | "centred" | "between" | "room";
  first: Entry;
  second: Entry;
  relief: { style: "rectangular" | "round" | "tear" | "none"; width?: Entry; depth?: Entry };
  features?: Record<string, Feature>;
  rounding?: Entry;
  corner_shape?: "round" | "chamfer";
  crossing?: "none" | "round" | "square";
  split?: { axis: Axis; low?: Entry; high?: Entry };
  gussets?: { number: number; width: Entry; depth: Entry };
  legs?: { length: Entry; angle: Entry }[];
  mirrored?: "none" | "u" | "v";
  [field: string]: unknown;
};
export type Folding = {
  radius?: Entry;
  flanges: Record<string, Flange>;
  corners?: Record<string, { a: string; b: string; style: string; gap: Entry }>;
  corner: "open" | "closed" | "a_covers" | "b_covers";
  gap: Entry;
  rounding?: Entry;
  corner_shape?: "round" | "chamfer";
  crossing?: "none" | "round" | "square";
  split?: { axis: Axis; low?: Entry; high?: Entry };
  sequence?: string[];
};
/** What every line of the cut list has. */
type ListedPart = { name: string; order: number; quantity: number; group: string; out: boolean; note: string };
/** What all parts have that lie between places in the room. */
type Between = ListedPart & { stock: string; aside?: boolean; turns: Record<string, Turn> };
/** What all parts have that lie in a plane. */
type InPlane = Between & {
  plane: Plane;
  position: { face: string; at: Entry };
  spans: Partial<Record<Axis, { low: Entry; high: Entry }>>;
  up: "a" | "b";
  grain: "free" | "u" | "v";
  features: Record<string, Feature>;
  outline?: Outline;
  loose?: "kept" | "removed";
};
export type Board = InPlane & { kind: "board"; folding?: undefined };
export type FoldedPart = InPlane & { kind: "folded"; made: "cut" | "bought"; price: number; folding: Folding };
export type BoughtPart = InPlane & {
  kind: "bought";
  price: number;
  deep?: Entry;
  mass?: number;
  solid?: Record<string, unknown>;
  folding?: undefined;
};
export type Item = ListedPart & { kind: "item"; price: number };
/** Cut to length from round bar, along an axis; `at` is where its centre line lies along the two others. */
export type Rod = Between & {
  kind: "rod";
  axis: Axis;
  span: { low: Entry; high: Entry };
  at: Partial<Record<Axis, Entry>>;
};
export type PlatePart = Board | FoldedPart | BoughtPart;
export type PlacedPart = PlatePart | Rod;
export type Part = PlacedPart | Item;

/** Whether a part lies between places in the room. */
export function isPlaced(part: Part | undefined): part is PlacedPart {
  return part !== undefined && part.kind !== "item";
}

/** What the maker notes of parts that are one row, said once; what is only counted has its note in its row already. */
export function notesOf(doc: Doc, keys: string[]): string {
  const notes = keys.map((k) => doc.parts[originalOf(k)]).flatMap((p) => (isPlaced(p) && p.note ? [p.note] : []));
  return [...new Set(notes)].join("; ");
}

/** Whether a part lies in a plane, with faces, edges and what is worked into them. */
export function isPlate(part: Part | undefined): part is PlatePart {
  return isPlaced(part) && part.kind !== "rod";
}

/** The stocks that flat parts are cut from, in their order. */
export function sheetsOf(doc: Doc): [string, SheetStock][] {
  return ordered(doc.stocks).filter((row): row is [string, SheetStock] => row[1].kind !== "bar");
}

/** The stocks that lengths are cut from, in their order. */
export function barsOf(doc: Doc): [string, BarStock][] {
  return ordered(doc.stocks).filter((row): row is [string, BarStock] => row[1].kind === "bar");
}

/** A sheet stock by its key. */
export function sheetOf(doc: Doc, key: string): SheetStock | undefined {
  const stock = doc.stocks[key];
  return stock && stock.kind !== "bar" ? stock : undefined;
}

/** What a part is drawn as: its stock, or what is of none. */
export function lookOf(doc: Doc, stock: string): { tint: string; hatch: string } {
  const found = doc.stocks[stock];
  return found
    ? { tint: found.tint, hatch: found.kind === "bar" ? "board" : found.hatch }
    : { tint: "#8C959E", hatch: "plastic" };
}

/** Whether a part is bought, and nothing of it is cut here. */
export function isBought(part: Part | undefined): boolean {
  return (
    part !== undefined && (part.kind === "item" || part.kind === "bought" || (part.kind === "folded" && part.made === "bought"))
  );
}

export type Tab = { at: Entry; length: Entry };
/** A joint's own entries differ by kind; what they are is said by the core (`state/joints.ts`). */
export type Joint = {
  kind: string;
  a: string;
  b: string;
  order: number;
  out?: boolean;
  fit: Entry;
  count?: Entry;
  pitch?: Entry;
  tabs?: Record<string, Tab>;
  [field: string]: unknown;
};
export type Bore = {
  name: string;
  order: number;
  out?: boolean;
  axis: Axis;
  at: Partial<Record<Axis, Entry>>;
  diameter: Entry;
  low?: Entry;
  high?: Entry;
  parts: Record<string, { action: "cut" | "mark" | "leave"; fit: Entry }>;
};
export type SheetSize = {
  length: Entry;
  width: Entry;
  price: number;
  roll: boolean;
  count?: number;
  grain?: "along" | "across";
  order: number;
};
type AnyStock = {
  name: string;
  material: string;
  nominal: Entry;
  measured?: Entry;
  density: number;
  tint: string;
  order: number;
};
export type BarLength = { length: Entry; price: number; count?: number; order: number };
export type BarStock = AnyStock & { kind: "bar"; shape: "round"; lengths: Record<string, BarLength>; kerf: Entry };
export type SheetStock = AnyStock & {
  /** a sheet where it does not say */
  kind?: "sheet";
  gauge?: string;
  sheets: Record<string, SheetSize>;
  grain: "none" | "along";
  turn: string;
  offcuts?: Record<string, { name: string; outline: [number, number][]; holes?: [number, number][][]; order: number }>;
  faces?: "differ" | "alike";
  hatch: string;
  bends: boolean;
  bending?: Bending;
};
export type Stock = SheetStock | BarStock;
/** How a sheet metal's bends are reckoned; lengths in the table in mm, angles in degrees. */
export type Bending = {
  rule: "k" | "table" | "din6935" | "handbook-soft" | "handbook-half-hard" | "handbook-hard";
  k: number;
  table: { thickness: number; radius: number; angle: number; k?: number; allowance?: number; deduction?: number }[];
  radius?: Entry;
  least_radius?: Entry;
  hole_distance?: Entry;
  strength: number;
  air: number;
};
export type Punch = { name: string; angle: number; radius: number; height: number; width: number; order: number };
export type Die = {
  name: string;
  v: number;
  angle: number;
  radius: number;
  height: number;
  width: number;
  least_flange?: number;
  order: number;
};
export type Brake = {
  name: string;
  length: number;
  force: number;
  gauge: number;
  free: number;
  joggle: number;
  joggle_radius?: number;
  joggle_angle?: number;
  punches: Record<string, Punch>;
  dies: Record<string, Die>;
  order: number;
};
export type LayerRecord = { name: string; colour: string; line_width: number; line?: "continuous" | "dashed" | "chain" };
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
  layers: Record<"mark" | "depth" | "inside" | "outside" | "drill" | "bend_up" | "bend_down" | "note", LayerRecord>;
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
  | { kind: "bend"; length: number; radius: number; angle: number }
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
  brakes?: Record<string, Brake>;
  brake?: string;
  fits: Record<string, FitTable>;
  parts: Record<string, Part>;
  joints: Record<string, Joint>;
  bores: Record<string, Bore>;
  groups: Record<string, Group>;
  copies: Record<string, Copy>;
  clearances: Record<string, Clearance>;
  numbering: string;
  kept: Record<string, unknown>;
  tests: Record<string, TestPiece>;
  marks: HelpMarks;
  rules: { finger: number; web: number; edge: number; floor: number };
  nest: {
    gap: Entry;
    margin: Entry;
    edges?: Partial<Record<"left" | "right" | "bottom" | "top", Entry>>;
    arranged?: Record<string, unknown>;
    seed: number;
    seconds: number;
  };
};

/** A JSON pointer from its keys. */
export function pointer(...keys: string[]): string {
  return keys.map((k) => `/${k.replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");
}

/** The key of the part that an instance is of. */
export function originalOf(key: string): string {
  return key.split("@")[0];
}

/** A leg's face in a place's name taken apart: the flange's key, and which of its faces. */
export function legOf(name: string): { record: string; side: string } {
  const dot = name.lastIndexOf(".");
  return { record: name.slice(0, dot).split(".")[0].replace(/~$/, ""), side: name.slice(dot + 1) };
}

/** The groups that a part or group lies in, from the inside out. */
export function within(doc: Doc, group: string): string[] {
  const found: string[] = [];
  for (let g = group; g && doc.groups[g] && !found.includes(g); g = doc.groups[g].parent) found.push(g);
  return found;
}

/** Whether a part is left out, by itself or with a group. */
export function leftOut(doc: Doc, key: string): boolean {
  const part = doc.parts[key];
  return Boolean(part?.out || within(doc, part?.group ?? "").some((g) => doc.groups[g].out));
}

export const AXES: Axis[] = ["x", "y", "z"];
export const AXIS_WORDS: Record<Axis, string> = { x: "left to right", y: "front to back", z: "bottom to top" };

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

// The document as the interface reads it: types that are generated from the core's records, and what is asked of them everywhere.
import type { components } from "../api/document";

type D = components["schemas"];
/** What all records of several kinds have; the fields of each kind's own are said by the core's forms. */
type Common<Kinds> = Pick<Kinds, keyof Kinds> & { [field: string]: unknown };

export type Entry = D["Entry"];
export type Display = D["Document"]["display"];
export type Plane = D["Board"]["plane"];
export type Axis = D["Rod"]["axis"];
export type Size = D["Size"];
/** Something to measure from or to: a part, a face, an edge, its centre, or a feature's middle. */
export type Place = D["Place"];
export type Turn = D["Turn"];
export type Group = D["Group"];
type AnyCopy = D["Document"]["copies"][string];
export type CopyKind = AnyCopy["kind"];
export type Copy = Common<AnyCopy> & { names?: Record<string, string> };
export type Clearance = D["Clearance"];
export type Outline = Common<NonNullable<D["Board"]["outline"]>>;
export type Spot = D["Spot"];
export type Feature = Common<D["Board"]["features"][string]> & { text?: string; face?: string };
type AnyFlange = D["Folding"]["flanges"][string];
type OfFlanges = Pick<AnyFlange, keyof AnyFlange>;
/** What stands on an edge of a folded part's plate, or of another flange: a flange, a hem, an offset bend, a profile, or a line across what is flat. */
export type Flange = OfFlanges &
  Partial<Omit<D["Flange"], keyof OfFlanges | "features">> &
  Partial<Pick<D["Profile"], "legs">> & { features?: Record<string, Feature>; [field: string]: unknown };
export type Folding = Omit<D["Folding"], "flanges"> & { flanges: Record<string, Flange> };
type Worked<Kind> = Omit<Kind, "features" | "outline"> & { features: Record<string, Feature>; outline?: Outline };
export type Board = Worked<D["Board"]> & { folding?: undefined };
export type FoldedPart = Omit<Worked<D["FoldedPart"]>, "folding"> & { folding: Folding };
export type BoughtPart = Worked<D["BoughtPart"]> & { folding?: undefined };
export type Item = D["Item"];
/** Cut to length from round bar, along an axis; `at` is where its centre line lies along the two others. */
export type Rod = D["Rod"];
/** Cut to length from bar or tube, on lines of a frame. */
export type Member = D["Member"];
/** A fitting with sockets on a point of a frame. */
export type Connector = D["Connector"];
export type Socket = D["Socket"];
/** A half-profile of steps round an axis. */
export type Turned = D["TurnedPart"];
/** A piece of hardware that lies by itself: a hinge, a slide, a foot, a magnet, a body from a file. */
export type Lying = D["HardwarePart"];
export type LineFrame = D["LineFrame"];
export type FramePoint = D["FramePoint"];
export type PlatePart = Board | FoldedPart | BoughtPart;
export type PlacedPart = PlatePart | Rod | Member | Connector | Turned | Lying;
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
  return isPlaced(part) && !isLength(part) && part.kind !== "connector" && part.kind !== "turned" && part.kind !== "hardware";
}

/** Whether a part lies on lines of a frame or stands on a point of one. */
export function isFramed(part: Part | undefined): part is Member | Connector {
  return part?.kind === "member" || part?.kind === "connector";
}

/** Whether a part is a length of bar or tube. */
export function isLength(part: { kind: string } | undefined): boolean {
  return part?.kind === "rod" || part?.kind === "member";
}

/** Whether a joint is between members of frames. */
export function isMemberJoint(kind: string): boolean {
  return kind.startsWith("member_");
}

/** The stocks that flat parts are cut from, in their order. */
export function sheetsOf(doc: Doc): [string, SheetStock][] {
  return ordered(doc.stocks).filter((row): row is [string, SheetStock] => row[1].kind !== "bar");
}

/** The stocks that lengths are cut from, in their order. */
export function barsOf(doc: Doc): [string, BarStock][] {
  return ordered(doc.stocks).filter((row): row is [string, BarStock] => row[1].kind === "bar");
}

/** The section of the bar that a part is cut from; none where it is cut from none. */
export function sectionOf(doc: Doc, stock: string): BarStock["shape"] | undefined {
  const found = doc.stocks[stock];
  return found?.kind === "bar" ? found.shape : undefined;
}

/** What is said before the one size across of a length of bar. */
export function acrossMark(doc: Doc, stock: string): string {
  const shape = sectionOf(doc, stock) ?? "rectangle";
  return shape === "round" ? "⌀ " : shape === "rectangle" ? "" : `${shape} `;
}

/** Whether it matters which way the section of a bar lies: along which axis its width runs. */
export function hasWidth(doc: Doc, stock: string): boolean {
  return !["", "round", "square"].includes(sectionOf(doc, stock) ?? "");
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

/** Whether a part that is made so is cut from a stock of the shop. */
export const cutHere = (made: string) => made === "cut" || made === "bent";

/** Whether a part is bought, turned or printed, and nothing of it is cut here. */
export function isBought(part: Part | undefined): boolean {
  return (
    part !== undefined &&
    (part.kind === "item" ||
      part.kind === "bought" ||
      part.kind === "connector" ||
      part.kind === "turned" ||
      part.kind === "hardware" ||
      (part.kind === "folded" && part.made === "bought"))
  );
}

export type Tab = D["Tab"];
/** A joint's own entries differ by kind; what they are is said by the core (`state/joints.ts`). */
export type Joint = Common<D["Document"]["joints"][string]> & {
  fit: Entry;
  count?: Entry;
  pitch?: Entry;
  tabs?: Record<string, Tab>;
};
export type Bore = D["Bore"];
/** What a bore does to a part. */
export type BoreDoes = D["BoreThrough"]["action"];
export type SheetSize = D["SheetSize"];
export type BarLength = D["BarLength"];
export type BarStock = D["BarStock"];
export type SheetStock = D["SheetStock"];
export type Stock = SheetStock | BarStock;
/** How a sheet metal's bends are reckoned; lengths in the table in mm, angles in degrees. */
export type Bending = D["Bending"];
export type Punch = D["Punch"];
export type Die = D["Die"];
export type Brake = D["Brake"];
export type LayerRecord = D["Layer"];
export type Cutter = D["Cutter"];
export type FitTable = D["FitTable"];
export type TestPiece = D["Document"]["tests"][string];
export type HelpMarks = D["HelpMarks"];
export type Doc = Omit<D["Document"], "parts" | "joints" | "copies" | "stocks"> & {
  parts: Record<string, Part>;
  joints: Record<string, Joint>;
  copies: Record<string, Copy>;
  stocks: Record<string, Stock>;
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

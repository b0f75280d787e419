// A line in hand: where it begins, where the pointer would have it end, and how it becomes a line of a frame with what lies on it.
import { create } from "zustand";
import { said } from "../api/client";
import type { Patch } from "../api/types";
import { type Axis, barsOf, type Doc, isFramed, type Member, originalOf, type Part } from "../lib/document";
import { CATCH, stepOf, type Vec } from "../lib/ghost";
import { useDesign } from "./design";
import { type Operation, workedOut } from "./operations";
import { useView } from "./view";

type Spot = Extract<Operation, { operation: "draw_line" }>["start"];
/** A place for an end of a line: what the core is told, where it is in the room, and what it is called. */
export type LineEnd = { spot: Spot; at: Vec; words: string; axis?: Axis };

type DrawingState = {
  stock: string;
  start: LineEnd | null;
  over: LineEnd | null;
  /** a length typed while it is drawn, along the axis of `over` or the one chosen by key */
  typed: string;
  axis: Axis | "";
  /** what is drawn keeps so clear of the faces that are pressed; '' for lines on them */
  clear: string;
  scale: number;
  why: string;
  busy: boolean;
  /** the members that were drawn since the card was opened */
  drawn: string[];
  begin: () => void;
  /** the pencil is put away */
  end: () => void;
  setStock: (stock: string) => void;
  setStart: (start: LineEnd | null) => void;
  /** the pointer is at a place; `scale` mm are a pixel there */
  point: (over: LineEnd | null, scale?: number) => void;
  type: (typed: string) => void;
  setAxis: (axis: Axis | "") => void;
  setClear: (clear: string) => void;
  /** takes what the pointer is at: the beginning, or the end, which makes the line */
  press: () => Promise<void>;
  /** makes the line by the length that is typed */
  byLength: () => Promise<void>;
  /** joins what was drawn to what it meets */
  join: () => Promise<void>;
  /** makes what was drawn one bar that is bent */
  bend: () => Promise<void>;
};

const EMPTY = { start: null, over: null, typed: "", axis: "" as const, why: "", busy: false, drawn: [] };

/** The frame and point at which the last line of a patch ends, as 'FRAME:POINT', and the part that lies on it. */
export function endOf(patch: Patch): { point: string; part: string } {
  let point = "";
  let part = "";
  for (const op of patch) {
    const [, group, key, what] = String(op.path).split("/");
    const value = op.value as { b?: string; lines?: Record<string, { b: string }> } | undefined;
    if (group === "frames" && what === "lines" && value?.b) point = `${key}:${value.b}`;
    if (group === "frames" && !what && value?.lines) point = `${key}:${Object.values(value.lines)[0]?.b ?? ""}`;
    if (group === "parts" && !what) part = key;
  }
  return { point, part };
}

/** The bar that a selected frame is of, or that of the selected member. */
function ofFrame(doc: Doc | null): string {
  const { selection } = useView.getState();
  if (!doc || (selection?.kind !== "frame" && selection?.kind !== "part")) return "";
  const part = selection.kind === "part" ? doc.parts[originalOf(selection.key)] : undefined;
  const frame = isFramed(part) ? part.frame : selection.key;
  const lies = (p: Part): p is Member => p.kind === "member" && p.frame === frame;
  return part?.kind === "member" ? part.stock : (Object.values(doc.parts).find(lies)?.stock ?? "");
}

export const useDrawing = create<DrawingState>()((set, get) => {
  async function make(more: Partial<Extract<Operation, { operation: "draw_line" }>>): Promise<void> {
    const { start, stock, scale, busy, clear } = get();
    const doc = useDesign.getState().doc;
    if (!start || !doc || busy) return;
    set({ busy: true, why: "" });
    try {
      const body: Operation = {
        operation: "draw_line",
        start: start.spot,
        stock,
        catch: CATCH * scale,
        step: stepOf(scale, doc.unit),
        clear,
        ...more,
      };
      const { label, patch } = await workedOut(body);
      if (!(await useDesign.getState().commit(label, patch))) return;
      const made = endOf(patch);
      set({ drawn: made.part ? [...get().drawn, made.part] : get().drawn, typed: "", over: null, start: placeOf(made.point) });
    } catch (error) {
      set({ why: said(error) });
    } finally {
      set({ busy: false });
    }
  }

  async function done(body: Operation): Promise<void> {
    try {
      const { label, patch } = await workedOut(body);
      if (await useDesign.getState().commit(label, patch)) set({ drawn: [], why: "" });
    } catch (error) {
      set({ why: said(error) });
    }
  }

  return {
    ...EMPTY,
    stock: "",
    clear: "",
    scale: 1,
    begin: () => {
      const doc = useDesign.getState().doc;
      const bars = doc ? barsOf(doc) : [];
      const own = ofFrame(doc);
      const stock =
        own || (bars.some(([k]) => k === get().stock) ? get().stock : (bars.find(([, s]) => s.wall)?.[0] ?? bars[0]?.[0]));
      // the pointer may have found its place already
      set({ ...EMPTY, over: get().over, stock: stock ?? "" });
    },
    end: () => set(EMPTY),
    setStock: (stock) => set({ stock }),
    setStart: (start) => set({ start, over: null, why: "" }),
    point: (over, scale) => set({ over, scale: scale ?? get().scale }),
    type: (typed) => set({ typed, why: "" }),
    setAxis: (axis) => set({ axis }),
    setClear: (clear) => set({ clear, why: "" }),
    async press() {
      const { start, over } = get();
      if (!over) return;
      if (!start) set({ start: over, over: null, why: "" });
      else await make({ end: over.spot });
    },
    async byLength() {
      const { typed, axis, over, start } = get();
      const along = axis || over?.axis || "z";
      const back = !axis && over && start && over.axis ? over.at["xyz".indexOf(along)] < start.at["xyz".indexOf(along)] : false;
      if (typed.trim()) await make({ axis: along, by: back ? `-(${typed})` : typed });
    },
    join: () => done({ operation: "join_members", of: get().drawn }),
    bend: () => done({ operation: "bend_members", of: get().drawn }),
  };
});

/** A point of a frame as an end of a line; null where it has no place. */
export function placeOf(key: string): LineEnd | null {
  const [frame, point] = key.split(":");
  const found = useDesign.getState().head?.frames?.find((f) => f.key === frame);
  const at = found?.points.find((p) => p.key === point);
  return found && at
    ? { spot: { point: key }, at: at.at as Vec, words: `${found.name.replaceAll("_", " ")}, point ${at.number}` }
    : null;
}

// An outline while it is drawn: the tool in hand, what was pressed, what is chosen, and the drawing as it is led by hand.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { api, got, said } from "../api/client";
import type { DrawingOut, LedOut } from "../api/types";
import type { Entry } from "../lib/document";
import { drawingIn } from "../lib/drawnIn";
import type { Caught } from "../lib/outline";
import type { Pair } from "../lib/plane";
import { fresh, useDesign } from "./design";
import { type Operation, workedOut } from "./operations";
import { useView } from "./view";

type Draw = Extract<Operation, { operation: "draw" }>;
export type DrawTool = Draw["tool"];
/** How the picture behind the drawing is laid anew, by two places that are pressed on it. */
export type BackdropTool = Exclude<Extract<Operation, { operation: "place_backdrop" }>["how"], "whole">;
export type OutlineTool = DrawTool | "" | "trim" | "split" | BackdropTool;

export const BACKDROP: Record<BackdropTool, { words: string; says: string[] }> = {
  scale: { words: "Scale", says: ["one place of which you know how far it is from another", "the other one", ""] },
  level: { words: "Level", says: ["one end of a line on it that should be level", "its other end"] },
  upright: { words: "Upright", says: ["one end of a line on it that should be upright", "its other end"] },
  move: { words: "Move", says: ["a place on the picture", "where that place belongs"] },
  crop: { words: "Crop", says: ["one corner of what stays", "the corner across"] },
};

/** Whether a tool draws: it is neither none, nor one that cuts off, nor one that lays a picture. */
export const draws = (tool: OutlineTool): tool is DrawTool => tool in TOOLS;
export const laysPicture = (tool: OutlineTool): tool is BackdropTool => tool in BACKDROP;

/** What each tool is called, how many places it takes, and what may be typed while it draws. */
export const TOOLS: Record<DrawTool, { words: string; presses: number; says: string[]; figures: string[] }> = {
  line: { words: "Line", presses: 2, says: ["where it begins", "where it ends"], figures: ["length"] },
  arc_smooth: {
    words: "Arc, going on smoothly",
    presses: 2,
    says: ["an end that it goes on from", "where it ends"],
    figures: ["radius"],
  },
  arc_through: {
    words: "Arc through three places",
    presses: 3,
    says: ["where it begins", "where it ends", "a place on it"],
    figures: ["radius"],
  },
  arc_centre: {
    words: "Arc about a centre",
    presses: 3,
    says: ["its centre", "where it begins", "where it ends"],
    figures: ["radius"],
  },
  circle: { words: "Circle", presses: 2, says: ["its centre", "a place on it"], figures: ["diameter"] },
  rectangle: {
    words: "Rectangle",
    presses: 2,
    says: ["one corner", "the corner across"],
    figures: ["width", "height"],
  },
  slot: {
    words: "Slot",
    presses: 3,
    says: ["the middle of one end", "the middle of the other", "a place on its side"],
    figures: ["length", "width"],
  },
  polygon: { words: "Polygon", presses: 2, says: ["its centre", "a corner"], figures: ["diameter"] },
  spline: { words: "Smooth curve", presses: 200, says: ["where it begins", "the next place; Enter ends it"], figures: [] },
  text: { words: "Text", presses: 1, says: ["where it begins"], figures: ["height"] },
  point: { words: "Point", presses: 1, says: ["where it lies"], figures: [] },
};

type OutlineState = {
  tool: OutlineTool;
  presses: Caught[];
  /** places pressed while the last act was on its way: they are caught and pressed once it is there */
  waiting: { at: Pair; plain: boolean }[];
  over: Caught | null;
  /** keys of what is chosen, in the order in which it was pressed */
  chosen: string[];
  typed: Record<string, string>;
  helping: boolean;
  sides: number;
  text: string;
  why: string;
  busy: boolean;
  led: LedOut | null;
  /** by how much the picture behind the drawing is led away from where it lies (mm) */
  pictureBy: Pair | null;
  begin: () => void;
  take: (tool: OutlineTool) => void;
  point: (over: Caught | null) => void;
  press: (at: Caught) => Promise<void>;
  /** makes what is in hand with what is typed, or ends a smooth curve */
  finish: () => Promise<void>;
  /** lets go of what is pressed, then of the tool, then of what is chosen; false where nothing is left to let go of */
  back: () => boolean;
  choose: (key: string, more: boolean) => void;
  chooseAll: (keys: string[]) => void;
  type: (figure: string, text: string) => void;
  set: (more: Partial<Pick<OutlineState, "helping" | "sides" | "text" | "why">>) => void;
  act: (body: Operation) => Promise<boolean>;
};

const NOTHING = {
  presses: [] as Caught[],
  waiting: [] as OutlineState["waiting"],
  over: null,
  typed: {},
  why: "",
  led: null,
  pictureBy: null as Pair | null,
};

/** Which drawing is open: what it is drawn on, and which of it. */
export function opened(): { part: string; feature: string } | null {
  const { draft } = useView.getState();
  return draft?.kind === "outline" ? { part: draft.part, feature: draft.feature ?? "" } : null;
}

/** The drawing that is open, as the core solved it; the last one while the next is on its way. */
export function useDrawn(): { drawing: DrawingOut | null; why: string; latest: boolean } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const draft = useView((s) => s.draft);
  const [part, feature] = draft?.kind === "outline" ? [draft.part, draft.feature ?? ""] : ["", ""];
  const found = useQuery({
    queryKey: ["drawing", id, part, feature, revision],
    queryFn: () =>
      got(
        api.GET("/api/designs/{design_id}/parts/{part}/drawing", {
          params: { path: { design_id: id, part }, query: { feature } },
        }),
      ),
    enabled: part !== "" && revision > 0,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 60_000,
  });
  const drawing = found.data && found.data.part === part && found.data.feature === feature ? found.data : null;
  return { drawing, why: found.error ? said(found.error) : "", latest: drawing !== null && !found.isPlaceholderData };
}

/** The point in which the curve that was drawn last ends, by its key. */
function lastEnd(patch: { [key: string]: unknown }[]): string {
  const drawing = patch[0]?.value as { curves?: Record<string, { kind: string; b?: string; order?: number }> } | undefined;
  const curves = Object.values(drawing?.curves ?? {}).sort((a, b) => (b.order ?? 0) - (a.order ?? 0));
  return curves[0]?.kind === "line" ? (curves[0].b ?? "") : "";
}

export const useOutline = create<OutlineState>()((set, get) => ({
  ...NOTHING,
  tool: "",
  chosen: [],
  helping: false,
  sides: 6,
  text: "",
  busy: false,
  begin: () => set({ ...NOTHING, tool: "", chosen: [], busy: false }),
  take: (tool) => set({ ...NOTHING, tool: get().tool === tool ? "" : tool, chosen: tool ? [] : get().chosen }),
  point: (over) => set({ over }),
  async press(at) {
    const { tool, presses, busy } = get();
    if (busy) return;
    if (laysPicture(tool)) {
      set({ presses: [...presses.slice(0, 1), at], why: "" });
      if (presses.length && tool !== "scale") await get().finish();
      return;
    }
    if (!draws(tool)) return;
    const all = [...presses, at];
    // a smooth curve that comes back to where it began is done
    const closes = tool === "spline" && presses.length > 1 && at.on !== "" && at.on === presses[0].on;
    set({ presses: all, why: "" });
    if (all.length >= TOOLS[tool].presses || closes) await get().finish();
  },
  async finish() {
    const { tool, presses, over, typed, helping, sides, text, busy } = get();
    const where = opened();
    if (busy || !where || !presses.length) return;
    if (laysPicture(tool)) {
      const [a, b] = presses;
      const length = typed.distance?.trim() ? fresh(typed.distance) : undefined;
      if (!b || (tool === "scale" && !length)) return;
      if (await get().act({ operation: "place_backdrop", ...where, how: tool, a: a.at, b: b.at, length })) get().take("");
      return;
    }
    if (!draws(tool)) return;
    const wanted = TOOLS[tool].presses;
    // what is typed makes what is in hand at once, towards where the pointer is
    const missing = tool === "spline" ? 0 : wanted - presses.length;
    const all = missing > 0 && over ? [...presses, ...Array.from({ length: missing }, () => over)] : presses;
    const turns = tool === "arc_centre" && all.length === 3 && leftTurn(all) ? "left" : "right";
    const figures = Object.fromEntries(
      Object.entries(typed)
        .filter(([, text]) => text.trim())
        .map(([k, text]) => [k, fresh(text)]),
    ) as Record<string, Entry>;
    const body: Operation = {
      operation: "draw",
      ...where,
      tool,
      presses: all.map((p) => ({ x: p.at[0], y: p.at[1], on: p.on, seen: p.seen })),
      figures,
      helping,
      sides,
      turns,
      text: tool === "text" ? text : "",
    };
    set({ busy: true, why: "" });
    try {
      const { label, patch } = await workedOut(body);
      if (!(await useDesign.getState().commit(label, patch))) {
        set({ presses: [] });
        return;
      }
      const end = tool === "line" ? lastEnd(patch) : "";
      const last = all[all.length - 1];
      // a line goes on from where the last one ended, until one ends on a point that was there
      const goesOn = end !== "" && !(last.on && !last.on.includes(":") && !last.on.includes(".") && pointNamed(last.on));
      set({ presses: goesOn ? [{ ...last, on: end, seen: [] }] : [], typed: {}, over: null });
    } catch (error) {
      set({ why: said(error), presses: presses.slice(0, -1), waiting: [] });
    } finally {
      set({ busy: false });
    }
  },
  back: () => {
    const { presses, tool, chosen } = get();
    if (presses.length) set({ presses: [], waiting: [], typed: {}, why: "" });
    else if (tool) set({ ...NOTHING, tool: "" });
    else if (chosen.length) set({ chosen: [], why: "" });
    else return false;
    return true;
  },
  choose: (key, more) => {
    const { chosen } = get();
    const had = chosen.includes(key);
    set({
      chosen: more ? (had ? chosen.filter((k) => k !== key) : [...chosen, key]) : had && chosen.length === 1 ? [] : [key],
      why: "",
    });
  },
  chooseAll: (chosen) => set({ chosen, why: "" }),
  type: (figure, text) => set({ typed: { ...get().typed, [figure]: text } }),
  set: (more) => set(more),
  async act(body) {
    if (get().busy) return false;
    set({ busy: true, why: "" });
    try {
      const { label, patch } = await workedOut(body);
      const fine = await useDesign.getState().commit(label, patch);
      if (fine) set({ chosen: [], presses: [] });
      return fine;
    } catch (error) {
      set({ why: said(error) });
      return false;
    } finally {
      set({ busy: false });
    }
  },
}));

function pointNamed(key: string): boolean {
  const where = opened();
  const doc = useDesign.getState().doc;
  if (!where || !doc) return false;
  return key in (drawingIn(doc, where.part, where.feature)?.points ?? {});
}

/** Whether an arc about the first place from the second to the third is the shorter way to the left. */
function leftTurn([c, a, b]: Caught[]): boolean {
  const [ax, ay, bx, by] = [a.at[0] - c.at[0], a.at[1] - c.at[1], b.at[0] - c.at[0], b.at[1] - c.at[1]];
  return ax * by - ay * bx >= 0;
}

type Places = Record<string, Pair>;
let leading = 0;

/** Leads points to places and circles to radii, on from where they were led before; nothing is kept. */
export async function lead(d: DrawingOut, to: Places, radii: Record<string, number>): Promise<void> {
  const mine = ++leading;
  const [du, dv] = d.shift;
  try {
    const led = await got(
      api.POST("/api/designs/{design_id}/drawing/led", {
        params: { path: { design_id: useDesign.getState().id } },
        body: {
          solving: d.solving,
          to: moved(to, -du, -dv),
          radii,
          start: (useOutline.getState().led?.points ?? {}) as Places,
        },
      }),
    );
    if (mine === leading) useOutline.setState({ led });
  } catch (error) {
    if (mine === leading) useOutline.setState({ why: said(error) });
  }
}

/** Lets go: what was led is kept. */
export async function drop(d: DrawingOut, to: Places, radii: Record<string, number>): Promise<void> {
  const where = opened();
  leading++;
  if (!where) return;
  const { led, chosen, act } = useOutline.getState();
  const start = moved((led?.points ?? {}) as Places, ...(d.shift as Pair));
  if (!(await act({ operation: "drag_drawn", ...where, to, radii, start }))) useOutline.setState({ led: null });
  useOutline.setState({ chosen });
}

const moved = (places: Places, du: number, dv: number): Places =>
  Object.fromEntries(Object.entries(places).map(([k, [x, y]]) => [k, [x + du, y + dv] as Pair]));

/** Lets go of the picture behind the drawing where it was led to; it is shown there until the drawing comes anew. */
export async function dropPicture(from: Pair, by: Pair): Promise<void> {
  const where = opened();
  const to: Pair = [from[0] + by[0], from[1] + by[1]];
  const kept = where && (await useOutline.getState().act({ operation: "place_backdrop", ...where, how: "move", a: from, b: to }));
  if (!kept) useOutline.setState({ pictureBy: null });
}

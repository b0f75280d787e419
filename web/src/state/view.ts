// What is selected, pointed at, hidden and shown: one selection everywhere.
import { create } from "zustand";
import type { Axis, Bore, CopyKind, Place } from "../lib/document";
import { id, readOwner } from "../lib/owner";
import type { Station } from "./stations";

export type Selection =
  | { kind: "part"; key: string; face?: string }
  | { kind: "joint"; key: string }
  | { kind: "feature"; part: string; key: string }
  | { kind: "flange"; part: string; key: string }
  | { kind: "bore"; key: string }
  | { kind: "size"; key: string }
  | { kind: "copy"; key: string }
  | { kind: "group"; key: string }
  | { kind: "clearance"; key: string }
  /** a movement by its key as it was found */
  | { kind: "move"; movement: string }
  | { kind: "frame"; key: string }
  /** many parts (instance keys), or many features ('feature:PART:KEY') */
  | { kind: "many"; parts: string[]; features: string[] }
  | null;

export type Draft =
  | { kind: "board"; folded?: boolean }
  /** a board in hand, which is placed in the picture */
  | { kind: "place" }
  /** what a board that was just placed touches */
  | { kind: "touches"; part: string }
  | { kind: "rod" }
  /** turned, round the axis of the rod that was selected where one was */
  | { kind: "turned"; on?: string }
  | { kind: "bent" }
  /** a frame of tubes to begin with */
  | { kind: "frame" }
  /** connectors on points of a frame; on all where its tubes meet where none is named */
  | { kind: "connector"; frame: string; points: string[] }
  /** lines of a frame, drawn in the picture with what lies on them */
  | { kind: "line" }
  /** a rod through all that stands in its way, square to a face at a point of it (mm); `scale` mm are a pixel there */
  | { kind: "axle"; part: string; face: string; at: [number, number, number]; scale: number }
  | { kind: "item" }
  /** hinges or a slide between two parts: what moves, and what it hangs on */
  | { kind: "hang"; part?: string; on?: string }
  /** a crank with its handle on the end of a rod */
  | { kind: "crank"; rod: string }
  /** hardware that stands on a face at a point of it (mm) */
  | { kind: "stand"; part: string; face: string; at: [number, number, number] }
  | { kind: "joint"; a?: string; b?: string }
  /** `as`: of which kind it begins, `at`: where, from the low ends along both axes of the board (mm) */
  | { kind: "feature"; part?: string; as?: string; at?: [number, number] }
  /** a part's outline, or one of its shapes, drawn on its face */
  | { kind: "outline"; part: string; feature?: string }
  /** `begun`: as it begins where a face of `pressed` was pressed ('' for a copy's) */
  | { kind: "bore"; begun?: Bore; pressed?: string }
  | { kind: "copy"; way: CopyKind; of: string[] }
  | { kind: "group"; parts: string[] }
  | null;

/** What pressing and pulling on the canvas does: turn and pick, draw a loop or a box round things, or measure. */
export type Tool = "" | "loop" | "box" | "measure";
/** Folded parts on their way between flat (0) and bent (1): all bends together, or one after the other. */
export type Unfolding = { mode: "all" | "each"; share: number };
/** What is being pulled by hand: what the number says, of which part and flange, and why letting go changed nothing. */
export type Pull = { says: string; part: string; owner: string; reason?: string };
export type Section = { axis: Axis; share: number; flipped: boolean };

type ViewState = {
  station: Station;
  selection: Selection;
  hover: string;
  hidden: Record<string, true>;
  glass: Record<string, true>;
  asCut: boolean;
  turned: boolean;
  /** the step of the assembly that is shown, with its fraction; null where the design stands whole */
  step: number | null;
  /** whether what moves is moved in the picture */
  moving: boolean;
  draft: Draft;
  side: { name: string; n: number };
  dialog: "" | "quick" | "keys" | "history";
  tool: Tool;
  picks: Place[];
  pickAs: "face" | "edge" | "centre" | "part";
  section: Section | null;
  /** how far the parts are pulled apart, 0 to 1 */
  apart: number;
  /** how far folded parts are bent; null where they stand as they will be */
  unfolding: Unfolding | null;
  pull: Pull | null;
  find: string;
  go: (station: Station) => void;
  select: (selection: Selection) => void;
  /** adds a part to the selection or takes it out of it */
  toggle: (part: string) => void;
  selectMany: (parts: string[], features: string[]) => void;
  point: (part: string) => void;
  toggleHidden: (part: string) => void;
  toggleGlass: (part: string) => void;
  hide: (parts: string[]) => void;
  seeThrough: (parts: string[]) => void;
  isolate: (parts: string[], all: string[]) => void;
  showAll: () => void;
  setAsCut: (on: boolean) => void;
  setTurned: (on: boolean) => void;
  setStep: (step: number | null) => void;
  setMoving: (on: boolean) => void;
  setDraft: (draft: Draft) => void;
  setTool: (tool: Tool) => void;
  pick: (place: Place) => void;
  setPickAs: (as: ViewState["pickAs"]) => void;
  setSection: (section: Section | null) => void;
  setApart: (apart: number) => void;
  setUnfolding: (unfolding: Unfolding | null) => void;
  setPull: (pull: Pull | null) => void;
  setFind: (find: string) => void;
  look: (name: string) => void;
  setDialog: (dialog: ViewState["dialog"]) => void;
  reset: () => void;
};

function toggled(map: Record<string, true>, key: string): Record<string, true> {
  const { [key]: had, ...others } = map;
  return had ? others : { ...map, [key]: true };
}

function all(keys: string[]): Record<string, true> {
  return Object.fromEntries(keys.map((k) => [k, true as const]));
}

const FIRST = {
  station: "build" as Station,
  selection: null as Selection,
  hover: "",
  hidden: {} as Record<string, true>,
  glass: {} as Record<string, true>,
  asCut: false,
  turned: false,
  step: null as number | null,
  moving: false,
  draft: null as Draft,
  side: { name: "", n: 0 },
  dialog: "" as ViewState["dialog"],
  tool: "" as Tool,
  picks: [] as Place[],
  pickAs: "face" as ViewState["pickAs"],
  section: null as Section | null,
  apart: 0,
  unfolding: null as Unfolding | null,
  pull: null as Pull | null,
  find: "",
};

export const useView = create<ViewState>()((set, get) => ({
  ...FIRST,
  go: (station) =>
    set({
      station,
      tool: "",
      picks: [],
      moving: station === "build" && get().moving,
      draft: station === "build" ? get().draft : null,
    }),
  select: (selection) => {
    const draft = get().draft;
    // while a joint is drafted, picking a part answers its question
    if (draft?.kind === "joint" && selection?.kind === "part" && !(draft.a && draft.b)) {
      if (!draft.a) set({ draft: { ...draft, a: selection.key }, selection });
      else if (draft.a !== selection.key) set({ draft: { ...draft, b: selection.key }, selection });
      return;
    }
    // a cut that is drafted without a board takes the one that is picked
    if (draft?.kind === "feature" && !draft.part && selection?.kind === "part") {
      set({ draft: { ...draft, part: selection.key.split("@")[0] }, selection });
      return;
    }
    // a copy or group that is drafted without anything takes what is picked
    if (draft?.kind === "copy" && !draft.of.length && selection?.kind === "part") {
      set({ draft: { ...draft, of: [id.part(selection.key.split("@")[0])] }, selection });
      return;
    }
    set({ selection, draft: null, pull: null });
  },
  toggle: (part) => {
    const now = get().selection;
    const parts = now?.kind === "many" ? now.parts : now?.kind === "part" ? [now.key] : [];
    const next = parts.includes(part) ? parts.filter((p) => p !== part) : [...parts, part];
    get().selectMany(next, []);
  },
  selectMany: (parts, features) => {
    if (!parts.length && !features.length) set({ selection: null, draft: null });
    else if (parts.length === 1 && !features.length) set({ selection: { kind: "part", key: parts[0] }, draft: null });
    else set({ selection: { kind: "many", parts, features: parts.length ? [] : features }, draft: null });
  },
  point: (hover) => {
    if (get().hover !== hover) set({ hover });
  },
  toggleHidden: (part) => set({ hidden: toggled(get().hidden, part) }),
  toggleGlass: (part) => set({ glass: toggled(get().glass, part) }),
  hide: (parts) => set({ hidden: { ...get().hidden, ...all(parts) } }),
  seeThrough: (parts) => set({ glass: { ...get().glass, ...all(parts) } }),
  isolate: (parts, every) => set({ hidden: all(every.filter((k) => !parts.includes(k))) }),
  showAll: () => set({ hidden: {}, glass: {} }),
  setAsCut: (asCut) => set({ asCut }),
  setTurned: (turned) => set({ turned }),
  setStep: (step) => set({ step, apart: 0, moving: false }),
  setMoving: (moving) => set({ moving, station: "build", step: null, apart: 0, unfolding: null, tool: "", draft: null }),
  setDraft: (draft) => set({ draft, step: null, moving: false, tool: "", station: draft ? "build" : get().station }),
  setTool: (tool) => set({ tool: get().tool === tool ? "" : tool, picks: [], draft: null }),
  pick: (place) => set({ picks: get().picks.length >= 2 ? [place] : [...get().picks, place] }),
  setPickAs: (pickAs) => set({ pickAs }),
  setSection: (section) => set({ section }),
  setApart: (apart) => set({ apart, step: null, moving: false }),
  setUnfolding: (unfolding) => set({ unfolding, moving: false }),
  setPull: (pull) => set({ pull }),
  setFind: (find) => set({ find }),
  look: (name) => set({ side: { name, n: get().side.n + 1 } }),
  setDialog: (dialog) => set({ dialog }),
  reset: () => set(FIRST),
}));

/** The parts that a selection lights up, as instance keys. */
export function litParts(
  selection: Selection,
  joints: { key: string; a: string; b: string }[],
  bores: Record<string, { parts: Record<string, unknown> }>,
  parts: { key: string; of: string; made_by: (string | number)[][] }[] = [],
  groups: (part: string) => string[] = () => [],
): string[] {
  switch (selection?.kind) {
    case "part":
      return [selection.key];
    case "feature":
    case "flange":
      return [selection.part];
    case "joint":
      return joints.filter((j) => j.key === selection.key).flatMap((j) => [j.a, j.b]);
    case "bore":
      return Object.keys(bores[selection.key]?.parts ?? {});
    case "many":
      return selection.parts.length ? selection.parts : [...new Set(selection.features.map((f) => readOwner(f).part))];
    case "copy":
      return parts.filter((p) => p.made_by.some(([c]) => c === selection.key)).map((p) => p.key);
    case "group":
      return parts.filter((p) => groups(p.of).includes(selection.key)).map((p) => p.key);
    default:
      return [];
  }
}

/** The owner ids that a selection stands for on contours and triangles; none for a whole part. */
export function ownersOf(selection: Selection): string[] {
  if (selection?.kind === "many") return selection.features;
  if (selection?.kind === "flange") return [ownerOf(selection), id.bend(selection.part, selection.key)];
  const owner = ownerOf(selection);
  return owner ? [owner] : [];
}

/** The owner id that a selection stands for on contours and triangles; '' for a whole part. */
export function ownerOf(selection: Selection): string {
  switch (selection?.kind) {
    case "joint":
      return id.joint(selection.key);
    case "feature":
      return id.feature(selection.part, selection.key);
    case "flange":
      return id.flange(selection.part, selection.key);
    case "bore":
      return id.bore(selection.key);
    default:
      return "";
  }
}

/** The selection that an owner id stands for on a part. */
export function selectionOf(owner: string, part: string): Selection {
  const { kind, key, part: of, flange } = readOwner(owner);
  if (kind === "move") return { kind, movement: key };
  if (kind === "joint" || kind === "bore" || kind === "copy" || kind === "clearance") return { kind, key };
  if (kind === "flange" || kind === "bend") return { kind: "flange", part: of, key };
  // what is cut into a flange is changed on the flange's card
  if (kind === "feature") return flange ? { kind: "flange", part: of, key: flange } : { kind: "feature", part: of, key };
  return { kind: "part", key: part, face: kind === "edge" ? key : undefined };
}

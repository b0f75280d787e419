// What is selected, pointed at, hidden and shown: one selection everywhere.
import { create } from "zustand";

export type Station = "sizes" | "build" | "flats" | "nest" | "shop";
export const STATIONS: Station[] = ["sizes", "build", "flats", "nest", "shop"];

export type Selection =
  | { kind: "part"; key: string; face?: string }
  | { kind: "joint"; key: string }
  | { kind: "feature"; part: string; key: string }
  | { kind: "bore"; key: string }
  | { kind: "size"; key: string }
  | null;

export type Draft =
  | { kind: "board" }
  | { kind: "item" }
  | { kind: "joint"; a?: string; b?: string }
  | { kind: "feature"; part?: string }
  | { kind: "bore" }
  | null;

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
  draft: Draft;
  side: { name: string; n: number };
  dialog: "" | "quick" | "keys" | "history";
  go: (station: Station) => void;
  select: (selection: Selection) => void;
  point: (part: string) => void;
  toggleHidden: (part: string) => void;
  toggleGlass: (part: string) => void;
  showAll: () => void;
  setAsCut: (on: boolean) => void;
  setTurned: (on: boolean) => void;
  setStep: (step: number | null) => void;
  setDraft: (draft: Draft) => void;
  look: (name: string) => void;
  setDialog: (dialog: ViewState["dialog"]) => void;
  reset: () => void;
};

function toggled(map: Record<string, true>, key: string): Record<string, true> {
  const { [key]: had, ...others } = map;
  return had ? others : { ...map, [key]: true };
}

export const useView = create<ViewState>()((set, get) => ({
  station: "build",
  selection: null,
  hover: "",
  hidden: {},
  glass: {},
  asCut: false,
  turned: false,
  step: null,
  draft: null,
  side: { name: "", n: 0 },
  dialog: "",
  go: (station) => set({ station, draft: station === "build" ? get().draft : null }),
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
      set({ draft: { ...draft, part: selection.key }, selection });
      return;
    }
    set({ selection, draft: null });
  },
  point: (hover) => {
    if (get().hover !== hover) set({ hover });
  },
  toggleHidden: (part) => set({ hidden: toggled(get().hidden, part) }),
  toggleGlass: (part) => set({ glass: toggled(get().glass, part) }),
  showAll: () => set({ hidden: {}, glass: {} }),
  setAsCut: (asCut) => set({ asCut }),
  setTurned: (turned) => set({ turned }),
  setStep: (step) => set({ step }),
  setDraft: (draft) => set({ draft, step: null, station: draft ? "build" : get().station }),
  look: (name) => set({ side: { name, n: get().side.n + 1 } }),
  setDialog: (dialog) => set({ dialog }),
  reset: () =>
    set({
      station: "build",
      selection: null,
      hover: "",
      hidden: {},
      glass: {},
      draft: null,
      side: { name: "", n: 0 },
      dialog: "",
      step: null,
      turned: false,
    }),
}));

/** The parts that a selection lights up. */
export function litParts(
  selection: Selection,
  joints: { key: string; a: string; b: string }[],
  bores: Record<string, { parts: Record<string, unknown> }>,
): string[] {
  switch (selection?.kind) {
    case "part":
      return [selection.key];
    case "feature":
      return [selection.part];
    case "joint":
      return joints.filter((j) => j.key === selection.key).flatMap((j) => [j.a, j.b]);
    case "bore":
      return Object.keys(bores[selection.key]?.parts ?? {});
    default:
      return [];
  }
}

/** The owner id that a selection stands for on contours and triangles; '' for a whole part. */
export function ownerOf(selection: Selection): string {
  switch (selection?.kind) {
    case "joint":
      return `joint:${selection.key}`;
    case "feature":
      return `feature:${selection.part}:${selection.key}`;
    case "bore":
      return `bore:${selection.key}`;
    default:
      return "";
  }
}

/** The selection that an owner id stands for on a part. */
export function selectionOf(owner: string, part: string): Selection {
  const [kind, first, second] = owner.split(":");
  if (kind === "joint") return { kind: "joint", key: owner.slice(6) };
  if (kind === "feature") return { kind: "feature", part: first, key: second };
  if (kind === "bore") return { kind: "bore", key: owner.slice(5) };
  return { kind: "part", key: part, face: kind === "edge" ? first : undefined };
}

// A board in hand: before which face it hangs, where in the rooms there, and how it is placed.
import { create } from "zustand";
import { ApiError, api, got, said } from "../api/client";
import type { FreeRooms } from "../api/types";
import { type Axis, FACES, FRAME, type Plane, sheetOf, sheetsOf } from "../lib/document";
import { distanceOf, type Ghost, ghostIn, roomsAt, stepOf, typedLength, type Vec } from "../lib/ghost";
import { useDesign } from "./design";
import { workedOut } from "./operations";
import { useView } from "./view";

type Where = {
  spans: Record<string, [string, string]>;
  face: string;
  at: string;
  number: number;
  between: [string, string] | null;
};
type Pointed = { part: string; face: string; at: Vec; scale: number };
type PlacingState = {
  stock: string;
  plane: Plane;
  number: number;
  typed: string;
  /** which of the rooms at the pointer, from the face on */
  behind: number;
  /** where its low face was moved to by key, in mm; null where the pointer says */
  moved: number | null;
  pointed: Pointed | null;
  found: FreeRooms | null;
  why: string;
  ghost: Ghost | null;
  /** where nothing stands yet: the corner that was pressed, and the one that the pointer is at */
  corner: Vec | null;
  reach: Vec | null;
  busy: boolean;
  start: () => void;
  set: (some: Partial<Pick<PlacingState, "stock" | "plane" | "number" | "typed">>) => void;
  /** the pointer is on a face, at a place in the room; ``scale`` mm are a pixel there */
  point: (pointed: Pointed) => void;
  /** the pointer is on the ground, where nothing stands yet */
  ground: (at: Vec, scale: number) => void;
  leave: () => void;
  turn: () => void;
  next: () => void;
  /** by so many steps along its thickness, or to the next place where it catches */
  move: (by: number, catching?: boolean) => void;
  place: () => Promise<void>;
};

const PLANES: Plane[] = ["lying", "facing_front", "facing_side"];
const MOST_ASKED = 60;
const EMPTY = {
  typed: "",
  behind: 0,
  moved: null,
  pointed: null,
  found: null,
  why: "",
  ghost: null,
  corner: null,
  reach: null,
  busy: false,
};

/** What was asked for already, of this revision of this design. */
const asked = new Map<string, Promise<FreeRooms | string>>();

function ask(pointed: Pointed, plane: Plane, stock: string): Promise<FreeRooms | string> {
  const { id, revision } = useDesign.getState();
  const key = [id, revision, pointed.part, pointed.face, plane, stock].join(" ");
  const known = asked.get(key);
  if (known) return known;
  const body = { part: pointed.part, face: pointed.face, plane, stock };
  const answer = got(api.POST("/api/designs/{design_id}/rooms", { params: { path: { design_id: id } }, body })).catch((error) => {
    // what the core refuses stays so; what could not be asked is asked again
    if (!(error instanceof ApiError) || error.offline) asked.delete(key);
    return said(error);
  });
  asked.set(key, answer as Promise<FreeRooms | string>);
  for (const old of asked.keys()) {
    if (asked.size <= MOST_ASKED) break;
    asked.delete(old);
  }
  return answer as Promise<FreeRooms | string>;
}

type Held = { get: () => PlacingState; set: (some: Partial<PlacingState>) => void };

/** Gives what looks for rooms and hangs the board in them. */
function hanging({ get, set }: Held) {
  /** The ghost as everything stands now. */
  function hang(): void {
    const { found, pointed, plane, typed, behind, moved } = get();
    const unit = useDesign.getState().doc?.unit ?? "mm";
    const rooms = found && pointed ? roomsAt(found, plane, pointed.at) : [];
    const room = rooms[behind % Math.max(rooms.length, 1)];
    if (!found || !pointed || !room) {
      set({ ghost: null, why: found ? found.why : "" });
      return;
    }
    const normal = FRAME[plane].normal;
    const i = ["x", "y", "z"].indexOf(normal);
    const low = moved ?? (normal === found.axis ? null : pointed.at[i] - found.thickness / 2);
    set({ ghost: ghostIn(found, room, plane, { low, scale: moved === null ? pointed.scale : 0, typed, unit }), why: "" });
  }

  /** Asks for the rooms before the face that is pointed at, where it is another one. */
  async function look(): Promise<void> {
    const { pointed, plane, stock } = get();
    if (!pointed) return;
    const found = await ask(pointed, plane, stock);
    const now = get();
    if (now.pointed?.part !== pointed.part || now.pointed.face !== pointed.face || now.plane !== plane || now.stock !== stock)
      return;
    if (typeof found === "string") set({ found: null, ghost: null, why: found });
    else {
      set({ found });
      hang();
    }
  }

  return { hang, look };
}

/** Gives what places the board in hand. */
function placer({ get, set }: Held): () => Promise<void> {
  /** Makes the board as the core works it out; its key, '' where it was refused. */
  async function put(where: Where): Promise<string> {
    const { stock, plane } = get();
    set({ busy: true });
    try {
      const { label, patch } = await workedOut({ operation: "place_board", stock, plane, ...where });
      return (await useDesign.getState().commit(label, patch)) ? String(patch[0].path).split("/")[2] : "";
    } catch (error) {
      set({ why: said(error) });
      return "";
    } finally {
      set({ busy: false });
    }
  }

  return async () => {
    const { ghost, plane, number, busy, corner, reach } = get();
    const { u, v, normal } = FRAME[plane];
    if (busy) return;
    if (ghost) {
      const ends = (a: Axis): [string, string] => [ghost.room[a][0].entry, ghost.room[a][1].entry];
      const between = number > 1 ? ends(normal) : null;
      const made = await put({ spans: { [u]: ends(u), [v]: ends(v) }, face: ghost.face, at: ghost.at, number, between });
      if (made) useView.getState().setDraft({ kind: "touches", part: made });
    } else if (!corner) set({ corner: reach });
    else {
      const box = firstBox(get());
      if (!box) return;
      const unit = useDesign.getState().doc?.unit ?? "mm";
      const i = (a: Axis) => "xyz".indexOf(a);
      const ends = (a: Axis): [string, string] => [typedLength(box.low[i(a)], unit), typedLength(box.high[i(a)], unit)];
      const at = typedLength(box.low[i(normal)], unit);
      const made = await put({ spans: { [u]: ends(u), [v]: ends(v) }, face: FACES[normal][0], at, number: 1, between: null });
      if (made) useView.getState().select({ kind: "part", key: made });
    }
  };
}

export const usePlacing = create<PlacingState>()((set, get) => {
  const { hang, look } = hanging({ get, set });
  return {
    stock: "",
    plane: "lying",
    number: 1,
    ...EMPTY,

    start() {
      const doc = useDesign.getState().doc;
      const stock = doc && sheetOf(doc, get().stock) ? get().stock : doc ? (sheetsOf(doc)[0]?.[0] ?? "") : "";
      set({ ...EMPTY, stock, number: 1 });
    },

    set(some) {
      set(some);
      // figures alone draw the first board too, from nought
      const nothing = !useDesign.getState().head?.parts.some((p) => p.solid);
      if (some.typed && nothing && !get().corner) set({ corner: [0, 0, 0], reach: [0, 0, 0] });
      if ("stock" in some || "plane" in some) {
        set({ found: null, ghost: null, moved: null, behind: 0 });
        void look();
      } else hang();
    },

    point(pointed) {
      const before = get().pointed;
      const same = before?.part === pointed.part && before.face === pointed.face;
      set({ pointed, moved: null, ...(same ? {} : { behind: 0, found: null, ghost: null, why: "" }) });
      if (same && get().found) hang();
      else void look();
    },

    ground(at, scale) {
      const unit = useDesign.getState().doc?.unit ?? "mm";
      const step = stepOf(scale, unit);
      // near to nought it is nought: a design begins at its corner
      set({ reach: at.map((x) => (Math.abs(x) <= 12 * scale ? 0 : Math.round(x / step) * step)) as Vec });
    },

    leave: () => set({ pointed: null, found: null, ghost: null, reach: null, why: "" }),

    turn() {
      get().set({ plane: PLANES[(PLANES.indexOf(get().plane) + 1) % PLANES.length] });
    },

    next() {
      set({ behind: get().behind + 1, moved: null });
      hang();
    },

    move(by, catching) {
      const { ghost, plane, pointed } = get();
      if (!ghost || !pointed) return;
      const i = ["x", "y", "z"].indexOf(FRAME[plane].normal);
      const lows = ghost.room.catches.map((c) => c.low).sort((a, b) => a - b);
      const on = by > 0 ? lows.find((x) => x > ghost.low[i] + 1e-6) : lows.findLast((x) => x < ghost.low[i] - 1e-6);
      const unit = useDesign.getState().doc?.unit ?? "mm";
      set({ typed: "", moved: catching ? (on ?? ghost.low[i]) : ghost.low[i] + by * stepOf(pointed.scale / 4, unit) });
      hang();
    },

    place: placer({ get, set }),
  };
});

/** The first board between two corners, in mm; null while there is only one, or where it has no size. Figures typed as 300 x 200 set its size. */
export function firstBox({
  corner,
  reach,
  plane,
  typed,
}: Pick<PlacingState, "corner" | "reach" | "plane" | "typed">): { low: Vec; high: Vec } | null {
  if (!corner) return null;
  const { u, v } = FRAME[plane];
  const unit = useDesign.getState().doc?.unit ?? "mm";
  const figures = typed.split(/[x×]/).map((t) => distanceOf(t, unit));
  const to = [...(reach ?? corner)] as Vec;
  [u, v].forEach((a, k) => {
    const i = "xyz".indexOf(a);
    const figure = figures[k];
    if (figure !== null && figure !== undefined) to[i] = corner[i] + figure * (to[i] < corner[i] ? -1 : 1);
  });
  const low = corner.map((x, i) => Math.min(x, to[i])) as Vec;
  const high = corner.map((x, i) => Math.max(x, to[i])) as Vec;
  return [u, v].every((a) => high["xyz".indexOf(a)] - low["xyz".indexOf(a)] >= 1) ? { low, high } : null;
}

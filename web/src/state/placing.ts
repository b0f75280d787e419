// A board in hand: before which face it hangs, where in the rooms there, and how it is placed.
import { create } from "zustand";
import { api, got, said } from "../api/client";
import type { FreeRooms } from "../api/types";
import { FRAME, type Plane, sheetOf, sheetsOf } from "../lib/document";
import { type Ghost, ghostIn, roomsAt, stepOf, type Vec } from "../lib/ghost";
import { useDesign } from "./design";
import { workedOut } from "./operations";
import { useView } from "./view";

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
  busy: boolean;
  start: () => void;
  set: (some: Partial<Pick<PlacingState, "stock" | "plane" | "number" | "typed">>) => void;
  /** the pointer is on a face, at a place in the room; ``scale`` mm are a pixel there */
  point: (pointed: Pointed) => void;
  leave: () => void;
  turn: () => void;
  next: () => void;
  /** by so many steps along its thickness, or to the next place where it catches */
  move: (by: number, catching?: boolean) => void;
  place: () => Promise<void>;
};

const PLANES: Plane[] = ["lying", "facing_front", "facing_side"];
const MOST_ASKED = 60;
const EMPTY = { typed: "", behind: 0, moved: null, pointed: null, found: null, why: "", ghost: null, busy: false };

/** What was asked for already, of this revision of this design. */
const asked = new Map<string, Promise<FreeRooms | string>>();

function ask(pointed: Pointed, plane: Plane, stock: string): Promise<FreeRooms | string> {
  const { id, revision } = useDesign.getState();
  const key = [id, revision, pointed.part, pointed.face, plane, stock].join(" ");
  const known = asked.get(key);
  if (known) return known;
  const body = { part: pointed.part, face: pointed.face, plane, stock };
  const answer = got(api.POST("/api/designs/{design_id}/rooms", { params: { path: { design_id: id } }, body })).catch(said);
  asked.set(key, answer as Promise<FreeRooms | string>);
  for (const old of asked.keys()) {
    if (asked.size <= MOST_ASKED) break;
    asked.delete(old);
  }
  return answer as Promise<FreeRooms | string>;
}

export const usePlacing = create<PlacingState>()((set, get) => {
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

    leave: () => set({ pointed: null, found: null, ghost: null, why: "" }),

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

    async place() {
      const { ghost, stock, plane, number, busy } = get();
      const doc = useDesign.getState().doc;
      if (!ghost || !doc || busy) return;
      const { u, v, normal } = FRAME[plane];
      const ends = (a: "x" | "y" | "z"): [string, string] => [ghost.room[a][0].entry, ghost.room[a][1].entry];
      set({ busy: true });
      try {
        const { label, patch } = await workedOut({
          operation: "place_board",
          stock,
          plane,
          spans: { [u]: ends(u), [v]: ends(v) },
          face: ghost.face,
          at: ghost.at,
          number,
          between: number > 1 ? ends(normal) : null,
        });
        const key = String(patch[0].path).split("/")[2];
        if (await useDesign.getState().commit(label, patch)) useView.getState().setDraft({ kind: "touches", part: key });
      } catch (error) {
        set({ why: said(error) });
      } finally {
        set({ busy: false });
      }
    },
  };
});

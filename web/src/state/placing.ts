// A board in hand: before which face it hangs, where in the rooms there, and how it is placed.
import { create } from "zustand";
import { ApiError, api, got, said } from "../api/client";
import type { FreeRoom, FreeRooms } from "../api/types";
import { type Axis, type Doc, FACES, FRAME, type Plane, sheetOf, sheetsOf } from "../lib/document";
import { edgeNear, type Ghost, ghostIn, PLANE_OF, roomsAt, stepOf, stretched, type Vec } from "../lib/ghost";
import { useDesign } from "./design";
import { putter } from "./putting";

type Pointed = { part: string; face: string; at: Vec; scale: number };
export type PlacingState = {
  what: "board" | "drawer";
  stock: string;
  /** of a drawer's bottom */
  bottom: string;
  plane: Plane;
  /** the way it was made to stand; near the edge of a face a board stands along that edge instead, until it is turned */
  chosen: Plane;
  number: number;
  /** and its mirror image as far from the other end */
  pair: boolean;
  /** the end at which it slides out, or is drawn out; '' for a board that stays */
  out: string;
  /** lengths that were typed along axes where nothing bounds the room */
  lengths: Partial<Record<Axis, string>>;
  typed: string;
  /** which of the rooms at the pointer, from the face on */
  behind: number;
  /** where its low face was moved to by key, in mm; null where the pointer says */
  moved: number | null;
  pointed: Pointed | null;
  /** the edge of the face that the pointer is near to */
  along: { axis: Axis; end: 0 | 1 } | null;
  /** whether it was turned before this face: then it stays so */
  turned: boolean;
  found: FreeRooms | null;
  why: string;
  ghost: Ghost | null;
  /** where nothing stands yet: the corner that was pressed, and the one that the pointer is at */
  corner: Vec | null;
  reach: Vec | null;
  busy: boolean;
  start: () => void;
  set: (
    some: Partial<Pick<PlacingState, "what" | "stock" | "bottom" | "plane" | "number" | "pair" | "out" | "lengths" | "typed">>,
  ) => void;
  /** the pointer is on a face, at a place in the room; ``scale`` mm are a pixel there */
  point: (pointed: Pointed) => void;
  /** the pointer is on the ground, where nothing stands yet */
  ground: (at: Vec, scale: number) => void;
  leave: () => void;
  turn: () => void;
  next: () => void;
  /** by so many steps along its thickness, or to the next place where it catches */
  move: (by: number, catching?: boolean) => void;
  /** to a place where it catches */
  hold: (low: number) => void;
  /** the next end at which it would slide out, and none after the last */
  wayOn: () => void;
  place: () => Promise<void>;
};

const PLANES: Plane[] = ["lying", "facing_front", "facing_side"];
const MOST_ASKED = 60;
const EMPTY = {
  typed: "",
  behind: 0,
  moved: null,
  pointed: null,
  along: null,
  turned: false,
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

export type Held = { get: () => PlacingState; set: (some: Partial<PlacingState>) => void };

/** Gives what looks for rooms and hangs the board in them. */
function hanging({ get, set }: Held) {
  /** The ghost as everything stands now. */
  function hang(): void {
    const { found, pointed, plane, typed, behind, moved, along, what, lengths } = get();
    const unit = useDesign.getState().doc?.unit ?? "mm";
    const rooms = found && pointed ? roomsAt(found, pointed.at) : [];
    const free = rooms[behind % Math.max(rooms.length, 1)];
    if (!found || !pointed || !free) {
      set({ ghost: null, why: found ? found.why : "" });
      return;
    }
    const room = stretched(free, lengths, unit);
    const normal = FRAME[plane].normal;
    const i = ["x", "y", "z"].indexOf(normal);
    const t = found.thickness;
    const edge = along && along.axis === normal ? room[normal][along.end].value - along.end * t : null;
    const low = moved ?? (normal === found.axis ? null : (edge ?? pointed.at[i] - t / 2));
    const ghost = ghostIn(found, room, plane, { low, scale: moved === null ? pointed.scale : 0, typed, unit });
    set({ ghost: what === "drawer" ? { ...ghost, ...roomOf(room) } : ghost, why: "" });
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

/** A drawer takes up all of its room. */
function roomOf(room: FreeRoom): { low: Vec; high: Vec } {
  const end = (i: 0 | 1) => (["x", "y", "z"] as const).map((a) => room[a][i].value) as Vec;
  return { low: end(0), high: end(1) };
}

export const usePlacing = create<PlacingState>()((set, get) => {
  const { hang, look } = hanging({ get, set });
  return {
    what: "board",
    stock: "",
    bottom: "",
    plane: "lying",
    chosen: "lying",
    number: 1,
    pair: false,
    out: "",
    lengths: {},
    ...EMPTY,

    start() {
      const doc = useDesign.getState().doc;
      const stock = doc && sheetOf(doc, get().stock) ? get().stock : doc ? (sheetsOf(doc)[0]?.[0] ?? "") : "";
      const thin = doc && sheetOf(doc, get().bottom) ? get().bottom : doc ? thinnest(doc, stock) : "";
      set({ ...EMPTY, stock, bottom: thin, number: 1, pair: false, out: "", lengths: {} });
    },

    set(some) {
      set(some);
      if (some.plane) set({ chosen: some.plane, turned: true });
      // a drawer fills an opening: it is seen from the front
      if (some.what)
        set({ out: "", pair: false, number: 1, ...(some.what === "drawer" ? { plane: "facing_front" as const } : {}) });
      if (some.pair) set({ number: 1 });
      if (some.number && some.number > 1) set({ pair: false });
      // figures alone draw the first board too, from nought
      const nothing = !useDesign.getState().head?.parts.some((p) => p.solid);
      if (some.typed && nothing && !get().corner) set({ corner: [0, 0, 0], reach: [0, 0, 0] });
      if ("stock" in some || "plane" in some || "what" in some) {
        set({ found: null, ghost: null, moved: null, behind: 0 });
        void look();
      } else hang();
    },

    point(pointed) {
      const before = get().pointed;
      const same = before?.part === pointed.part && before.face === pointed.face;
      const turned = same && get().turned;
      const along = turned || get().what === "drawer" ? null : edgeOf(pointed);
      const plane = get().what === "drawer" || turned ? get().plane : along ? PLANE_OF[along.axis] : get().chosen;
      const stays = same && plane === get().plane;
      set({ pointed, along, turned, plane, moved: null, ...(stays ? {} : { behind: 0, found: null, ghost: null, why: "" }) });
      if (stays && get().found) hang();
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

    hold(low) {
      set({ typed: "", moved: low });
      hang();
    },

    wayOn() {
      const { out, plane, what } = get();
      const { u, v } = FRAME[plane];
      const ends = ["", ...(what === "drawer" ? [...FACES.y, ...FACES.x] : [...FACES[u], ...FACES[v]])];
      set({ out: ends[(ends.indexOf(out) + 1) % ends.length] });
    },

    place: putter({ get, set }),
  };
});

/** The edge of the face that is pointed at that the pointer is near to. */
function edgeOf({ part: key, face, at, scale }: Pointed): { axis: Axis; end: 0 | 1 } | null {
  const part = useDesign.getState().head?.parts.find((p) => p.key === key);
  const normal = (Object.keys(FACES) as Axis[]).find((a) => FACES[a].includes(face));
  if (!part?.low || !part.high || !normal) return null;
  return edgeNear(at, part.low as Vec, part.high as Vec, normal, scale);
}

/** The thinnest sheet of the same material as another one: a bottom's. */
function thinnest(doc: Doc, stock: string): string {
  const values = useDesign.getState().head?.values ?? {};
  const thick = (key: string) => values[`/stocks/${key}/nominal`]?.value ?? Number.POSITIVE_INFINITY;
  const like = sheetsOf(doc).filter(([, s]) => s.material === sheetOf(doc, stock)?.material);
  return like.sort(([a], [b]) => thick(a) - thick(b))[0]?.[0] ?? stock;
}

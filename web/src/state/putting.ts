// What is in hand is put where it hangs: a board, a pair, several evenly, a panel that slides, a drawer; each one edit, as the core works it out.
import { said } from "../api/client";
import type { FreeRoom } from "../api/types";
import { type Axis, FACES, FRAME } from "../lib/document";
import { typedLength, wayOut } from "../lib/ghost";
import { useDesign } from "./design";
import { firstBox } from "./firstBox";
import { type Operation, workedOut } from "./operations";
import type { Held } from "./placing";
import { useView } from "./view";

const LEVEL: Axis[] = ["x", "y", "z"];

/** The entries of a room's ends along an axis. */
const ends = (room: FreeRoom, a: Axis): [string, string] => [room[a][0].entry, room[a][1].entry];

/** The parts that bound a room across a board, by the word of the end. */
function wallsOf(room: FreeRoom, axes: Axis[]): Record<string, string> {
  return Object.fromEntries(
    axes.flatMap((a) => FACES[a].map((word, i) => [word, room[a][i as 0 | 1].part])).filter(([, part]) => part),
  );
}

/** Gives what places what is in hand. */
export function putter({ get, set }: Held): () => Promise<void> {
  /** Makes it as the core works it out; the pointer of the first record, '' where it was refused. */
  async function put(operation: Operation): Promise<string> {
    set({ busy: true });
    try {
      const { label, patch } = await workedOut(operation);
      const record = patch.find((op) => op.op === "add" && /^\/(parts|groups)\/[^/]+$/.test(String(op.path)));
      return (await useDesign.getState().commit(label, patch)) ? String(record?.path ?? "") : "";
    } catch (error) {
      set({ why: said(error) });
      return "";
    } finally {
      set({ busy: false });
    }
  }

  async function first(): Promise<void> {
    const { plane, stock } = get();
    const { u, v, normal } = FRAME[plane];
    const box = firstBox(get());
    if (!box) return;
    const unit = useDesign.getState().doc?.unit ?? "mm";
    const i = (a: Axis) => "xyz".indexOf(a);
    const drawn = (a: Axis): [string, string] => [typedLength(box.low[i(a)], unit), typedLength(box.high[i(a)], unit)];
    const spans = { [u]: drawn(u), [v]: drawn(v) };
    const at = typedLength(box.low[i(normal)], unit);
    const made = await put({
      operation: "place_board",
      stock,
      plane,
      spans,
      face: FACES[normal][0],
      at,
      number: 1,
      between: null,
      pair: false,
    });
    if (made) useView.getState().select({ kind: "part", key: made.split("/")[2] });
  }

  return async () => {
    const { ghost, plane, number, pair, busy, corner, reach, stock, what, out, bottom } = get();
    const { u, v, normal } = FRAME[plane];
    if (busy) return;
    if (ghost && what === "drawer") {
      const room = Object.fromEntries(LEVEL.map((a) => [a, ends(ghost.room, a)]));
      const made = await put({ operation: "place_drawer", stock, bottom, room, out: out || wayOut(ghost.room), number });
      if (made) useView.getState().select({ kind: "group", key: made.split("/")[2] });
    } else if (ghost) {
      const spans = { [u]: ends(ghost.room, u), [v]: ends(ghost.room, v) };
      const where = { stock, plane, spans, face: ghost.face, at: ghost.at };
      if (out) {
        const made = await put({ operation: "sliding_panel", ...where, out, walls: wallsOf(ghost.room, [u, v]) });
        const { doc } = useDesign.getState();
        // a wall that became a board of its own may come first in the edit: the panel is the one that has its stock last
        const key = made && Object.entries(doc?.parts ?? {}).sort(([, a], [, b]) => b.order - a.order)[0]?.[0];
        if (key) useView.getState().select({ kind: "part", key });
        return;
      }
      const between = number > 1 || pair ? ends(ghost.room, normal) : null;
      const made = await put({ operation: "place_board", ...where, number, between, pair });
      if (made) useView.getState().setDraft({ kind: "touches", part: made.split("/")[2] });
    } else if (!corner) set({ corner: reach });
    else await first();
  };
}

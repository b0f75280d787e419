// Pieces laid by hand on the sheets of one stock: picked, dragged within the room that the core gives, turned, locked.
import { useEffect, useRef, useState } from "react";
import { api, got } from "../../api/client";
import type { LayoutOut, PlacedOut, RoomOut } from "../../api/types";
import { useDesign } from "../../state/design";
import { arrange, type Laid, laidKey, nearest, nextTurn, type Piece, type Point, placedOf } from "./hand";

/** Pixels from which on a press is a drag, and within which a piece goes into a corner. */
const DRAG = 4;
const SNAP = 10;

export type Ghost = { piece: PlacedOut; from: number; sheet: number; to: Laid };
type Drag = {
  piece: PlacedOut;
  from: number;
  start: Point;
  grip: Point;
  moving: boolean;
  room: RoomOut | null;
  last: PointerEvent | null;
};

export function useLaying(stock: string, layout: LayoutOut | null | undefined, current: boolean, name: (part: string) => string) {
  const design = useDesign((s) => s.id);
  const [picked, setPicked] = useState("");
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const [fresh, setFresh] = useState<RoomOut["fresh"] | null>(null);
  const [says, setSays] = useState("");
  const sheets = useRef<(SVGSVGElement | null)[]>([]);
  const drag = useRef<Drag | null>(null);
  const shown = useRef<Ghost | null>(null);

  const room = (p: Laid): Promise<RoomOut> =>
    got(
      api.POST("/api/designs/{design_id}/nest/room", {
        params: { path: { design_id: design } },
        body: { stock, part: p.part, number: p.number, angle: p.angle, mirrored: p.mirrored },
      }),
    );

  function show(next: Ghost | null) {
    shown.current = next;
    setGhost(next);
  }

  async function keep(label: string, change: Parameters<typeof arrange>[3]): Promise<void> {
    const { doc, commit, askNest } = useDesign.getState();
    if (!doc || !layout) return;
    if (await commit(label, arrange(doc, stock, layout, change))) await askNest(true);
  }

  /** Puts a piece where it shall lie, as one edit. */
  async function put(piece: PlacedOut, from: number, sheet: number, to: Laid, label: string): Promise<void> {
    const key = laidKey(piece);
    await keep(label, (a) => {
      delete a.sheets[`s${from + 1}`].placed[key];
      const target = `s${sheet + 1}`;
      if (!a.sheets[target] && fresh) a.sheets[target] = { size: fresh.size, order: sheet, placed: {} };
      a.sheets[target].placed[key] = { ...placedOf(piece), x: to.x, y: to.y, angle: to.angle, mirrored: to.mirrored };
    });
  }

  function at(svg: SVGSVGElement, e: { clientX: number; clientY: number }): { mm: Point; scale: number } {
    const matrix = svg.getScreenCTM();
    if (!matrix) return { mm: [0, 0], scale: 1 };
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
    return { mm: [p.x, -p.y], scale: matrix.a };
  }

  /** The sheet under the hand, else the nearest. */
  function under(e: { clientX: number; clientY: number }): number {
    let best = 0;
    let least = Number.POSITIVE_INFINITY;
    sheets.current.forEach((svg, n) => {
      if (!svg) return;
      const b = svg.getBoundingClientRect();
      const off = Math.hypot(
        Math.max(b.left - e.clientX, 0, e.clientX - b.right),
        Math.max(b.top - e.clientY, 0, e.clientY - b.bottom),
      );
      if (off < least) [best, least] = [n, off];
    });
    return best;
  }

  function follow(d: Drag, e: { clientX: number; clientY: number }) {
    if (!d.room) return;
    const sheet = under(e);
    const svg = sheets.current[sheet];
    if (!svg) return;
    const { mm, scale } = at(svg, e);
    const hand: Point = [mm[0] - d.grip[0], mm[1] - d.grip[1]];
    const place = nearest((d.room.rooms[sheet] ?? []) as unknown as Piece[], hand, SNAP / scale);
    if (!place) {
      setSays(`${name(d.piece.part)} has no room there as it is turned.`);
      return;
    }
    setSays("");
    show({ piece: d.piece, from: d.from, sheet, to: { ...placedOf(d.piece), x: place[0], y: place[1] } });
  }

  function grab(e: React.PointerEvent, sheet: number, piece: PlacedOut) {
    const svg = sheets.current[sheet];
    if (e.button !== 0 || !svg || !layout || !current) return;
    e.preventDefault();
    const { mm } = at(svg, e);
    const d: Drag = {
      piece,
      from: sheet,
      start: [e.clientX, e.clientY],
      grip: [mm[0] - piece.x, mm[1] - piece.y],
      moving: false,
      room: null,
      last: null,
    };
    setSays("");
    if (piece.locked) {
      setPicked(laidKey(piece));
      return;
    }
    drag.current = d;
    room(placedOf(piece))
      .then((found) => {
        d.room = found;
        if (drag.current === d) {
          setFresh(found.fresh);
          if (d.moving && d.last) follow(d, d.last);
        }
      })
      .catch((error) => setSays(error instanceof Error ? error.message : String(error)));
  }

  useEffect(() => {
    const move = (e: PointerEvent) => {
      const d = drag.current;
      if (!d) return;
      if (!d.moving && Math.hypot(e.clientX - d.start[0], e.clientY - d.start[1]) < DRAG) return;
      d.moving = true;
      d.last = e;
      document.body.style.cursor = "grabbing";
      follow(d, e);
    };
    const up = () => {
      const d = drag.current;
      drag.current = null;
      document.body.style.cursor = "";
      if (!d) return;
      setPicked(laidKey(d.piece));
      const g = shown.current;
      if (!d.moving || !g) return show(null);
      const n = layout?.sheets.length ?? 0;
      const where = g.sheet === g.from ? "" : g.sheet >= n ? " to a new sheet" : ` to sheet ${g.sheet + 1}`;
      void put(g.piece, g.from, g.sheet, g.to, `${name(g.piece.part)} moved${where} by hand`).finally(() => {
        show(null);
        setFresh(null);
      });
    };
    const cancel = (e: KeyboardEvent) => {
      if (e.key !== "Escape" || !drag.current) return;
      drag.current = null;
      document.body.style.cursor = "";
      show(null);
      setFresh(null);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
    window.addEventListener("keydown", cancel);
    return () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      window.removeEventListener("keydown", cancel);
    };
  });

  function find(): { piece: PlacedOut; sheet: number } | null {
    let found = null;
    layout?.sheets.forEach((s, sheet) => {
      const piece = s.parts.find((p) => laidKey(p) === picked);
      if (piece) found = { piece, sheet };
    });
    return found;
  }

  /** Turns the picked piece to its next turn, or over, about its middle: to the nearest place where that is free. */
  async function turn(over: boolean): Promise<void> {
    const now = find();
    if (!now) return;
    const { piece, sheet } = now;
    setSays("");
    try {
      const known = await room(placedOf(piece));
      const to = { ...placedOf(piece) };
      if (over) to.mirrored = !to.mirrored;
      else to.angle = nextTurn(known.turns, piece.angle);
      if (!over && known.turns.length < 2)
        return setSays(`${name(piece.part)} must not be turned: its stock or its grain does not allow it.`);
      const there = await room(to);
      const middle: Point = [
        piece.middle[0] - (there.box[0] + there.box[2]) / 2,
        piece.middle[1] - (there.box[1] + there.box[3]) / 2,
      ];
      const place = nearest((there.rooms[sheet] ?? []) as unknown as Piece[], middle, 0);
      if (!place) return setSays(`${name(piece.part)} has no room on sheet ${sheet + 1} turned so.`);
      await put(
        piece,
        sheet,
        sheet,
        { ...to, x: place[0], y: place[1] },
        `${name(piece.part)} ${over ? "turned over" : "turned"} on its sheet`,
      );
    } catch (error) {
      setSays(error instanceof Error ? error.message : String(error));
    }
  }

  /** Locks pieces where they lie, or lets them go. */
  async function lock(keys: string[], locked: boolean, what: string): Promise<void> {
    await keep(`${what} ${locked ? "locked" : "unlocked"}`, (a) => {
      for (const s of Object.values(a.sheets)) for (const k of keys) if (s.placed[k]) s.placed[k].locked = locked;
    });
  }

  return { picked, setPicked, ghost, fresh: ghost && fresh, says, setSays, sheets, grab, turn, lock, find, keep };
}
export type Laying = ReturnType<typeof useLaying>;

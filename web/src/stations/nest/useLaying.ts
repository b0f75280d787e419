// Pieces laid by hand on the sheets of one stock: picked, dragged within the room that the core gives, turned, locked.

import { type RefObject, useEffect, useRef, useState } from "react";
import { said } from "../../api/client";
import type { LayoutOut, PlacedOut, RoomOut } from "../../api/types";
import { useDesign } from "../../state/design";
import { roomFor } from "../../state/laying";
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

type Pointed = { clientX: number; clientY: number };

function at(svg: SVGSVGElement, e: Pointed): { mm: Point; scale: number } {
  const matrix = svg.getScreenCTM();
  if (!matrix) return { mm: [0, 0], scale: 1 };
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
  return { mm: [p.x, -p.y], scale: matrix.a };
}

/** The sheet under the hand, else the nearest. */
function under(sheets: (SVGSVGElement | null)[], e: Pointed): number {
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  sheets.forEach((svg, n) => {
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

type Dragged = {
  stock: string;
  sheets: RefObject<(SVGSVGElement | null)[]>;
  name: (part: string) => string;
  onSay: (words: string) => void;
  onPick: (key: string) => void;
  /** It is let go of where it may lie; ``fresh`` is the size of a sheet that would be new. */
  onDrop: (ghost: Ghost, fresh: RoomOut["fresh"] | null) => Promise<void>;
};

/** A piece that follows the hand within the room that the core gives for it. */
function useDrag({ stock, sheets, name, onSay, onPick, onDrop }: Dragged) {
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const [fresh, setFresh] = useState<RoomOut["fresh"] | null>(null);
  const drag = useRef<Drag | null>(null);
  const shown = useRef<Ghost | null>(null);

  function show(next: Ghost | null) {
    shown.current = next;
    setGhost(next);
  }

  function follow(d: Drag, e: Pointed) {
    if (!d.room) return;
    const sheet = under(sheets.current, e);
    const svg = sheets.current[sheet];
    if (!svg) return;
    const { mm, scale } = at(svg, e);
    const hand: Point = [mm[0] - d.grip[0], mm[1] - d.grip[1]];
    const place = nearest((d.room.rooms[sheet] ?? []) as unknown as Piece[], hand, SNAP / scale);
    if (!place) {
      onSay(`${name(d.piece.part)} has no room there as it is turned.`);
      return;
    }
    onSay("");
    show({ piece: d.piece, from: d.from, sheet, to: { ...placedOf(d.piece), x: place[0], y: place[1] } });
  }

  function grab(e: React.PointerEvent, svg: SVGSVGElement, sheet: number, piece: PlacedOut) {
    const { mm } = at(svg, e);
    const grip: Point = [mm[0] - piece.x, mm[1] - piece.y];
    const d: Drag = { piece, from: sheet, start: [e.clientX, e.clientY], grip, moving: false, room: null, last: null };
    drag.current = d;
    roomFor(stock, placedOf(piece))
      .then((found) => {
        d.room = found;
        if (drag.current === d) {
          setFresh(found.fresh);
          if (d.moving && d.last) follow(d, d.last);
        }
      })
      .catch((error) => onSay(said(error)));
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
    const gone = () => {
      show(null);
      setFresh(null);
    };
    const up = () => {
      const d = drag.current;
      drag.current = null;
      document.body.style.cursor = "";
      if (!d) return;
      onPick(laidKey(d.piece));
      const g = shown.current;
      if (!d.moving || !g) return show(null);
      void onDrop(g, fresh).finally(gone);
    };
    const cancel = (e: KeyboardEvent) => {
      if (e.key !== "Escape" || !drag.current) return;
      drag.current = null;
      document.body.style.cursor = "";
      gone();
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

  return { ghost, fresh: ghost && fresh, grab };
}

/** Where a piece comes to lie at its next turn, or turned over, about its middle or as near to it as is free; why not, as a sentence. */
async function turned(stock: string, piece: PlacedOut, sheet: number, over: boolean, name: string): Promise<Laid | string> {
  const known = await roomFor(stock, placedOf(piece));
  const to = { ...placedOf(piece) };
  if (over) to.mirrored = !to.mirrored;
  else to.angle = nextTurn(known.turns, piece.angle);
  if (!over && known.turns.length < 2) return `${name} must not be turned: its stock or its grain does not allow it.`;
  const there = await roomFor(stock, to);
  const middle: Point = [
    piece.middle[0] - (there.box[0] + there.box[2]) / 2,
    piece.middle[1] - (there.box[1] + there.box[3]) / 2,
  ];
  const place = nearest((there.rooms[sheet] ?? []) as unknown as Piece[], middle, 0);
  return place ? { ...to, x: place[0], y: place[1] } : `${name} has no room on sheet ${sheet + 1} turned so.`;
}

export function useLaying(stock: string, layout: LayoutOut | null | undefined, current: boolean, name: (part: string) => string) {
  const [picked, setPicked] = useState("");
  const [says, setSays] = useState("");
  const sheets = useRef<(SVGSVGElement | null)[]>([]);
  const drag = useDrag({
    stock,
    sheets,
    name,
    onSay: setSays,
    onPick: setPicked,
    onDrop: (g, fresh) => {
      const n = layout?.sheets.length ?? 0;
      const where = g.sheet === g.from ? "" : g.sheet >= n ? " to a new sheet" : ` to sheet ${g.sheet + 1}`;
      return put(g, `${name(g.piece.part)} moved${where} by hand`, fresh);
    },
  });

  async function keep(label: string, change: Parameters<typeof arrange>[3]): Promise<void> {
    const { doc, commit, askNest } = useDesign.getState();
    if (!doc || !layout) return;
    if (await commit(label, arrange(doc, stock, layout, change))) await askNest(true);
  }

  /** Puts a piece where it shall lie, as one edit. */
  async function put({ piece, from, sheet, to }: Ghost, label: string, fresh: RoomOut["fresh"] | null = null): Promise<void> {
    const key = laidKey(piece);
    await keep(label, (a) => {
      delete a.sheets[`s${from + 1}`].placed[key];
      const target = `s${sheet + 1}`;
      if (!a.sheets[target] && fresh) a.sheets[target] = { size: fresh.size, order: sheet, placed: {} };
      a.sheets[target].placed[key] = { ...placedOf(piece), x: to.x, y: to.y, angle: to.angle, mirrored: to.mirrored };
    });
  }

  function grab(e: React.PointerEvent, sheet: number, piece: PlacedOut) {
    const svg = sheets.current[sheet];
    if (e.button !== 0 || !svg || !layout || !current) return;
    e.preventDefault();
    setSays("");
    if (piece.locked) setPicked(laidKey(piece));
    else drag.grab(e, svg, sheet, piece);
  }

  function find(): { piece: PlacedOut; sheet: number } | null {
    let found = null;
    layout?.sheets.forEach((s, sheet) => {
      const piece = s.parts.find((p) => laidKey(p) === picked);
      if (piece) found = { piece, sheet };
    });
    return found;
  }

  /** Turns the picked piece to its next turn, or over. */
  async function turn(over: boolean): Promise<void> {
    const now = find();
    if (!now) return;
    const { piece, sheet } = now;
    setSays("");
    try {
      const to = await turned(stock, piece, sheet, over, name(piece.part));
      if (typeof to === "string") return setSays(to);
      await put({ piece, from: sheet, sheet, to }, `${name(piece.part)} ${over ? "turned over" : "turned"} on its sheet`);
    } catch (error) {
      setSays(said(error));
    }
  }

  /** Locks pieces where they lie, or lets them go. */
  async function lock(keys: string[], locked: boolean, what: string): Promise<void> {
    await keep(`${what} ${locked ? "locked" : "unlocked"}`, (a) => {
      for (const s of Object.values(a.sheets)) for (const k of keys) if (s.placed[k]) s.placed[k].locked = locked;
    });
  }

  return { picked, setPicked, ghost: drag.ghost, fresh: drag.fresh, says, setSays, sheets, grab, turn, lock, find, keep };
}
export type Laying = ReturnType<typeof useLaying>;

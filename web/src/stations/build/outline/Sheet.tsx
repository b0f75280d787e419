// The sheet over the face: the drawing, what it refers to, and what is pressed on it. Turning and coming nearer go through to the picture.
import { useCallback, useEffect, useMemo, useRef } from "react";
import type { DrawingOut } from "../../../api/types";
import { stepOf } from "../../../lib/ghost";
import { type Caught, caughtAt, leavesAt, type Thing, thingsAt } from "../../../lib/outline";
import { middleOf, mmPerPixel, type Pair, toPlane } from "../../../lib/plane";
import { useDesign } from "../../../state/design";
import { draws, drop, laysPicture, lead, opened, useDrawn, useOutline } from "../../../state/outline";
import { Backdrop, useLedPicture } from "./Backdrop";
import { Curves, Points, Referred } from "./Curves";
import { useSight } from "./FaceCamera";
import { InHand } from "./InHand";
import { Marks } from "./Marks";

/** Pixels within which a thing is caught, and from which on a press is a pull. */
const REACH = 9;
const PULL = 4;

type Pull = { from: Pair; thing: Thing; to: Record<string, Pair>; radius: number | null; moved: boolean };

export function Sheet() {
  const { drawing, latest } = useDrawn();
  const sight = useSight((s) => s.sight);
  const element = useSight((s) => s.element);
  const svg = useRef<SVGSVGElement>(null);
  const pull = useRef<Pull | null>(null);
  // a click's own place is in whole pixels; that of the pointer is not
  const pressedAt = useRef<Pair | null>(null);
  const picture = useLedPicture();
  const led = useOutline((s) => s.led);
  const tool = useOutline((s) => s.tool);
  // what was led by hand is shown until the core has kept it
  // biome-ignore lint/correctness/useExhaustiveDependencies: a drawing that comes takes the place of what was led
  useEffect(() => useOutline.setState({ led: null, pictureBy: null }), [drawing]);

  const shown = useMemo(() => (drawing && led ? withLed(drawing, led) : drawing), [drawing, led]);
  const place = useCallback((e: { clientX: number; clientY: number }): Pair | null => {
    const box = svg.current?.getBoundingClientRect();
    const now = useSight.getState().sight;
    return box && now ? toPlane(now, [e.clientX - box.left, e.clientY - box.top]) : null;
  }, []);
  usePressed(drawing, latest);
  if (!drawing || !shown || !sight) return null;
  const d = shown;
  const mm = mmPerPixel(sight, middleOf(d));

  const catchAt = (e: React.PointerEvent | React.MouseEvent) => {
    const p = place(e);
    return p && catchPlace(d, p, mm, e.altKey);
  };

  function down(e: React.PointerEvent): void {
    if (e.button !== 0) {
      element?.dispatchEvent(new PointerEvent("pointerdown", e.nativeEvent));
      return;
    }
    const state = useOutline.getState();
    const p = place(e);
    pressedAt.current = p;
    if (!p || state.tool !== "") return;
    const [thing] = thingsAt(d, p, REACH * mm);
    if (!thing && picture.take(d.backdrop, p)) svg.current?.setPointerCapture(e.pointerId);
    if (!thing || thing.kind === "reference" || thing.kind === "candidate") return;
    pull.current = { from: p, thing, to: {}, radius: null, moved: false };
    svg.current?.setPointerCapture(e.pointerId);
  }

  function move(e: React.PointerEvent): void {
    const p = place(e);
    const now = pull.current;
    if (!p) return;
    if (picture.lead(p, PULL * mm)) return;
    if (!now) {
      const { tool: inHand } = useOutline.getState();
      if (laysPicture(inHand)) useOutline.getState().point(plainly(p));
      else if (draws(inHand)) useOutline.getState().point(catchAt(e));
      else hover(thingsAt(d, p, REACH * mm)[0] ?? null);
      return;
    }
    if (!now.moved && Math.hypot(p[0] - now.from[0], p[1] - now.from[1]) < PULL * mm) return;
    now.moved = true;
    const [to, radius] = pulledTo(drawing!, now, p, stepOf(mm, useDesign.getState().doc?.unit ?? "mm"), e.altKey);
    now.to = to;
    now.radius = radius;
    follow(drawing!, now);
  }

  function up(e: React.PointerEvent): void {
    const now = pull.current;
    pull.current = null;
    if (picture.drop()) svg.current?.releasePointerCapture(e.pointerId);
    if (!now) return;
    svg.current?.releasePointerCapture(e.pointerId);
    if (now.moved) void drop(drawing!, now.to, radiiOf(now));
  }

  return (
    <>
      {d.backdrop && <Backdrop b={d.backdrop} sight={sight} />}
      <svg
        ref={svg}
        className="drawingsheet"
        data-tool={tool || "choose"}
        data-testid="sheet"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerLeave={() => {
          useOutline.getState().point(null);
          hover(null);
        }}
        onClick={(e) => pressed(d, pressedAt.current ?? place(e), mm, e, latest)}
        onDoubleClick={() => void useOutline.getState().finish()}
        onWheel={(e) => element?.dispatchEvent(new WheelEvent("wheel", e.nativeEvent))}
        onContextMenu={(e) => e.preventDefault()}
      >
        <title>Drawing on the face</title>
        <Referred d={d} sight={sight} />
        <Curves d={d} sight={sight} />
        <Marks d={d} sight={sight} />
        <Points d={d} sight={sight} />
        <InHand sight={sight} />
      </svg>
    </>
  );
}

/** A press on the picture: just there, on nothing of the drawing. */
const plainly = (at: Pair): Caught => ({ at, on: "", words: "", seen: [] });

/** A press with what is in hand: it trims, lays the picture, draws, or chooses what is there. */
function pressed(d: DrawingOut, p: Pair | null, mm: number, e: React.MouseEvent, latest: boolean): void {
  const state = useOutline.getState();
  const where = opened();
  if (!p || !where) return;
  const [thing] = thingsAt(d, p, REACH * mm);
  if (state.tool === "trim" || state.tool === "split") {
    if (thing?.kind === "curve")
      void state.act({ operation: "trim_drawn", ...where, curve: thing.key, at: p, split: state.tool === "split" });
    return;
  }
  if (laysPicture(state.tool)) {
    void state.press(plainly(p));
    return;
  }
  if (state.tool) {
    if (state.busy || !latest) useOutline.setState({ waiting: [...state.waiting, { at: p, plain: e.altKey }] });
    else void state.press(catchPlace(d, p, mm, e.altKey));
    return;
  }
  if (thing) state.choose(thing.key, e.shiftKey || e.ctrlKey || e.metaKey);
  else if (!e.shiftKey) state.chooseAll([]);
}

/** Where a press at a place would be made; plainly there, on nothing, where that is asked for. */
function catchPlace(d: DrawingOut, p: Pair, mm: number, plain: boolean): ReturnType<typeof caughtAt> {
  const { presses } = useOutline.getState();
  const before = presses[presses.length - 1];
  const step = plain ? mm : stepOf(mm, useDesign.getState().doc?.unit ?? "mm");
  const found = caughtAt(d, p, plain ? 0 : REACH * mm, step, before?.at ?? null, before ? leavesAt(d, before.on) : null);
  return plain ? { ...found, on: "", seen: [] } : found;
}

/** What was pressed while the last act was on its way is pressed once the drawing has come. */
function usePressed(drawing: DrawingOut | null, latest: boolean): void {
  const busy = useOutline((s) => s.busy);
  const waits = useOutline((s) => s.waiting.length);
  useEffect(() => {
    const { sight } = useSight.getState();
    const [first, ...waiting] = useOutline.getState().waiting;
    if (busy || !latest || !drawing || !sight || !first || !waits) return;
    useOutline.setState({ waiting });
    const mm = mmPerPixel(sight, [drawing.size[0] / 2, drawing.size[1] / 2]);
    void useOutline.getState().press(catchPlace(drawing, first.at, mm, first.plain));
  }, [busy, latest, drawing, waits]);
}

function hover(thing: Thing | null): void {
  const now = useOutline.getState().over;
  if (!thing && !now) return;
  if (thing && now && now.on === thing.key) return;
  useOutline.getState().point(thing ? { at: thing.at, on: thing.key, words: thing.words, seen: [] } : null);
}

/** Where what is pulled would be: a point, both ends of a line, or a circle's radius. */
function pulledTo(
  d: DrawingOut,
  { thing, from }: Pull,
  p: Pair,
  step: number,
  free: boolean,
): [Record<string, Pair>, number | null] {
  const round = (x: number) => (free ? x : Math.round(x / step) * step);
  const [dx, dy] = [p[0] - from[0], p[1] - from[1]];
  if (thing.kind === "point") return [{ [thing.key]: [round(thing.at[0] + dx), round(thing.at[1] + dy)] }, null];
  const curve = d.curves.find((c) => c.key === thing.key);
  const at = (k: string) => d.points.find((q) => q.key === k)?.at ?? [0, 0];
  if (curve?.kind === "circle" && curve.loose) {
    const c = at(curve.points[0]);
    return [{}, Math.max(round(Math.hypot(p[0] - c[0], p[1] - c[1])), step / 10)];
  }
  const moved = (curve?.points ?? []).map((k): [string, Pair] => [k, [at(k)[0] + round(dx), at(k)[1] + round(dy)]]);
  return [Object.fromEntries(moved), null];
}

const radiiOf = (pull: Pull): Record<string, number> => (pull.radius === null ? {} : { [pull.thing.key]: pull.radius });

let waiting: { d: DrawingOut; pull: Pull } | null = null;
let going = false;

/** One answer at a time is asked for; the latest place wins. */
function follow(d: DrawingOut, pull: Pull): void {
  waiting = { d, pull: { ...pull } };
  if (going) return;
  going = true;
  void (async () => {
    while (waiting) {
      const next = waiting;
      waiting = null;
      await lead(next.d, next.pull.to, radiiOf(next.pull));
    }
    going = false;
  })();
}

function withLed(d: DrawingOut, led: NonNullable<ReturnType<typeof useOutline.getState>["led"]>): DrawingOut {
  const [du, dv] = d.shift;
  const shifted = (p: number[]) => (p.length ? [p[0] + du, p[1] + dv] : p);
  return {
    ...d,
    points: d.points.map((p) => (led.points[p.key] ? { ...p, at: shifted(led.points[p.key]) } : p)),
    curves: d.curves.map((c) => (led.paths[c.key] ? { ...c, path: led.paths[c.key].map(shifted) } : c)),
  };
}

// What moves is taken by the hand: the place that was pressed follows the pointer as far as its thing can go.
import type { ThreeEvent } from "@react-three/fiber";
import type { MovesOut } from "../../api/types";
import type { Vec } from "../../lib/ghost";
import { back, chainOf, gone, moved, nearestTo, posesOf, REST, rangeOf } from "../../lib/pose";
import { useMoving } from "../../state/moves";
import { onScreen, turning } from "./stage";

/** So far of a turn, or of a slide in mm, may the pointer take it at once. */
const FAR = { turns: Math.PI / 2, slides: 200 };

/** Takes the piece that is pressed in hand; false where it does not move. */
export function takeInHand(event: ThreeEvent<PointerEvent>, moves: MovesOut, piece: string): boolean {
  const thing = moves.things.find((t) => t.pieces.includes(piece));
  const chain = thing ? chainOf(moves, thing.key) : [];
  const { chosen, travels, choose, stop } = useMoving.getState();
  // what is chosen is taken where it carries what is pressed, else what that does by itself, its turn first
  const own = chain.filter((m) => m.thing === thing?.key);
  const move = chain.find((m) => m.key === chosen) ?? own.find((m) => m.kind === "turns") ?? own[0];
  if (!move || event.nativeEvent.button !== 0) return false;
  event.stopPropagation();
  choose(move.key);
  stop();
  const travel = travels[move.key];
  if (!travel) return true;
  turning(false);
  const pose = (at: Record<string, number>) => posesOf(moves, at).get(piece) ?? REST;
  const pressed: Vec = [event.point.x, event.point.y, event.point.z];
  const place = back(pose(useMoving.getState().at), pressed);
  const [low, high] = travel.low.why === "round" ? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY] : rangeOf(travel);

  const follow = (e: PointerEvent) => {
    const { at, to } = useMoving.getState();
    const now = at[move.key] ?? 0;
    const off = (by: number) => {
      const [x, y] = onScreen(moved(pose(gone(at, move.key, by, travel)), place));
      return Math.hypot(x - e.clientX, y - e.clientY);
    };
    to(move.key, nearestTo(Math.max(low, now - FAR[move.kind]), Math.min(high, now + FAR[move.kind]), now, off));
  };
  const end = () => {
    turning(true);
    window.removeEventListener("pointermove", follow);
    window.removeEventListener("pointerup", end);
    window.removeEventListener("pointercancel", end);
  };
  window.addEventListener("pointermove", follow);
  window.addEventListener("pointerup", end);
  window.addEventListener("pointercancel", end);
  return true;
}

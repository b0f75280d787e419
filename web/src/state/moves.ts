// What moves, as the core found it; and how far it is moved in the picture while one looks. Nothing of that is kept until it is said to be.
import { useQueries, useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { api, got } from "../api/client";
import type { MovesOut, TravelOut } from "../api/types";
import { type At, gone, rangeOf } from "../lib/pose";
import { useDesign } from "./design";

/** How long a movement takes from stop to stop when it is played (ms). */
const PLAYED = 2400;

export function useMoves(wanted: boolean): { moves: MovesOut | null; failed: boolean } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["moves", id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/moves", { params: { path: { design_id: id } } })),
    enabled: wanted && Boolean(id) && revision > 0,
    retry: false,
    gcTime: 60_000,
  });
  return { moves: found.data ?? null, failed: Boolean(found.error) };
}

/** How far each movement goes, by its key; of those that are still looked for how much of the search is done. */
export function useTravels(keys: string[]): { travels: Record<string, TravelOut>; done: number } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQueries({
    queries: keys.map((movement) => ({
      queryKey: ["travel", id, revision, movement],
      queryFn: () =>
        got(api.GET("/api/designs/{design_id}/moves/{key}/travel", { params: { path: { design_id: id, key: movement } } })),
      retry: false,
      gcTime: 60_000,
      // what takes longer is asked for again until it is there
      refetchInterval: (query: { state: { data?: { travel?: unknown } } }) =>
        query.state.data && !query.state.data.travel ? 400 : false,
    })),
  });
  const shares = found.map((f) => (f.data?.travel ? 1 : (f.data?.share ?? 0)));
  return {
    travels: Object.fromEntries(keys.flatMap((k, i) => (found[i].data?.travel ? [[k, found[i].data.travel]] : []))),
    done: shares.reduce((sum, s) => sum + s, 0) / Math.max(1, keys.length),
  };
}

type MovingState = {
  /** how far each movement has gone from rest, radians or mm */
  at: At;
  /** the movement that is chosen */
  chosen: string;
  /** what is played, one after the other */
  playing: string[];
  travels: Record<string, TravelOut>;
  /** begins at what is kept; what is moved already stays so */
  begin: (moves: MovesOut) => void;
  /** forgets what was tried */
  leave: () => void;
  know: (travels: Record<string, TravelOut>) => void;
  choose: (key: string) => void;
  to: (key: string, by: number) => void;
  all: (at: At) => void;
  play: (keys: string[]) => void;
  stop: () => void;
};

let frame = 0;

export const useMoving = create<MovingState>()((set, get) => ({
  at: {},
  chosen: "",
  playing: [],
  travels: {},
  begin: (moves) => {
    const before = get().at;
    const chosen = moves.moves.some((m) => m.key === get().chosen) ? get().chosen : (moves.moves[0]?.key ?? "");
    set({ at: Object.fromEntries(moves.moves.map((m) => [m.key, before[m.key] ?? m.now])), chosen });
  },
  leave: () => {
    get().stop();
    set({ at: {}, travels: {} });
  },
  know: (travels) => set({ travels }),
  choose: (chosen) => set({ chosen }),
  to: (key, by) => {
    const travel = get().travels[key];
    const [low, high] = rangeOf(travel);
    const round = travel?.low.why === "round";
    set({ at: gone(get().at, key, round ? by : Math.min(high, Math.max(low, by)), travel) });
  },
  all: (at) => {
    get().stop();
    // what hangs together goes where the one of it goes that is named
    const { travels } = get();
    const named = Object.entries(at).sort(([, a], [, b]) => Math.abs(a) - Math.abs(b));
    set({ at: named.reduce((now, [key, by]) => gone(now, key, by, travels[key]), get().at) });
  },
  play: (keys) => {
    get().stop();
    const waiting = keys.filter((k) => get().travels[k]);
    if (!waiting.length) return;
    set({ playing: waiting });
    let begun = performance.now();
    const step = (now: number) => {
      const [key, ...rest] = get().playing;
      if (!key) return;
      const [low, high] = rangeOf(get().travels[key]);
      const share = Math.min(1, (now - begun) / PLAYED);
      // to the one stop and back by way of the other, and to rest
      const [far, near] = Math.abs(high) >= Math.abs(low) ? [high, low] : [low, high];
      const round = get().travels[key].low.why === "round";
      get().to(key, round ? 2 * Math.PI * share : share < 0.5 ? far * ease(share * 2) : between(far, near, share * 2 - 1));
      if (share >= 1) {
        get().to(key, 0);
        begun = now;
        set({ playing: rest });
      }
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
  },
  stop: () => {
    cancelAnimationFrame(frame);
    if (get().playing.length) set({ playing: [] });
  },
}));

const ease = (t: number) => t * t * (3 - 2 * t);
const between = (far: number, near: number, t: number) =>
  t < 0.7 ? far + (near - far) * ease(t / 0.7) : near * (1 - ease((t - 0.7) / 0.3));

// A feature in hand: the ways in which it is dragged on its face, and where it is now.
import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { api, got } from "../api/client";
import type { FeaturePullsOut, Patch } from "../api/types";
import { type Dragged, draggedBy, draggedTo } from "../lib/dragged";
import { useDesign } from "./design";

/** Values are tried at most so often while it is dragged (ms). */
const PAUSE = 50;

type DraggingState = {
  /** what it is called, in the words of its edit */
  name: string;
  pulls: FeaturePullsOut | null;
  now: Dragged[];
  begin: (name: string, pulls: FeaturePullsOut) => void;
  /** by so many mm along u and v, of which ``scale`` are a pixel */
  to: (u: number, v: number, scale: number, replace: boolean) => void;
  /** to a place along one way, at once */
  place: (way: string, at: number) => Promise<void>;
  settle: () => Promise<void>;
  leave: () => void;
};

const NOTHING = { name: "", pulls: null, now: [] as Dragged[] };

/** The edit that puts a feature where it was dragged; none where it is where it was. */
export function patchOf(pulls: FeaturePullsOut, now: Dragged[], unit: "mm" | "in"): Patch {
  return pulls.pulls.flatMap((pull, i): Patch => {
    const at = now[i];
    if (!at || Math.abs(at.value - pull.value) < 1e-6) return [];
    if (at.origin === pull.origin) return [{ op: "replace", path: `${pull.pointer}/offset/text`, value: at.text }];
    return [{ op: "replace", path: pull.pointer, value: { origin: at.origin, offset: { text: at.text, unit } } }];
  });
}

export const useDragging = create<DraggingState>()((set, get) => {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let tried = "[]";
  const unitOf = () => useDesign.getState().doc?.unit ?? "mm";
  const patch = () => {
    const { pulls, now } = get();
    return pulls ? patchOf(pulls, now, unitOf()) : [];
  };
  return {
    ...NOTHING,
    begin(name, pulls) {
      tried = "[]";
      set({ name, pulls, now: pulls.pulls.map((p) => draggedTo(p, p.value)) });
    },
    to(u, v, scale, replace) {
      const { pulls } = get();
      if (!pulls) return;
      set({ now: pulls.pulls.map((p) => draggedBy(p, p.way === "u" ? u : v, scale, unitOf(), replace)) });
      timer ??= setTimeout(() => {
        timer = undefined;
        const text = JSON.stringify(patch());
        if (!get().pulls || text === tried) return;
        tried = text;
        useDesign.getState().preview(patch());
      }, PAUSE);
    },
    async place(way, at) {
      const { pulls } = get();
      if (!pulls) return;
      set({ now: pulls.pulls.map((p) => draggedTo(p, p.way === way ? at : p.value)) });
      await get().settle();
    },
    async settle() {
      const { name, now, pulls } = get();
      const made = patch();
      get().leave();
      if (!pulls || !made.length) return;
      const where = now.filter((d, i) => Math.abs(d.value - pulls.pulls[i].value) > 1e-6).map((d) => d.caught || d.text);
      await useDesign.getState().commit(`${name}: ${where.join(", ")}`, made);
    },
    leave() {
      clearTimeout(timer);
      timer = undefined;
      if (get().pulls) useDesign.getState().preview(null);
      set(NOTHING);
    },
  };
});

/** How a feature can be dragged; null where it cannot be. After an edit the last known stands, not `fresh`, until it is asked for again. */
export function useFeaturePulls(part: string, feature: string): { pulls: FeaturePullsOut | null; fresh: boolean } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["feature-pulls", id, revision, part, feature],
    queryFn: () =>
      got(api.POST("/api/designs/{design_id}/feature-pulls", { params: { path: { design_id: id } }, body: { part, feature } })),
    enabled: Boolean(part && feature),
    placeholderData: (before, query) => (query?.queryKey[3] === part && query.queryKey[4] === feature ? before : undefined),
    retry: false,
  });
  return { pulls: found.data ?? null, fresh: !found.isPlaceholderData };
}

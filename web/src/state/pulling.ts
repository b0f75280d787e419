// A face in hand: what can be pulled of the selected part, and how far it is pulled now.
import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { api, got } from "../api/client";
import type { PullOut } from "../api/types";
import { type Pulled, pulledBy, pulledTo } from "../lib/pulls";
import { useDesign } from "./design";

/** Values are tried at most so often while a face is pulled (ms). */
const PAUSE = 50;

type PullingState = {
  part: string;
  pull: PullOut | null;
  value: number;
  text: string;
  caught: string;
  barred: string;
  typed: string;
  begin: (part: string, pull: PullOut) => void;
  /** by so many mm, of which ``scale`` are a pixel; `replace`: a catch takes the place of an expression */
  to: (by: number, scale: number, replace: boolean) => void;
  /** a distance typed in mid-pull, digit by digit */
  type: (text: string) => void;
  /** lets go: one edit, where anything has changed */
  settle: () => Promise<void>;
  leave: () => void;
};

const NOTHING = { part: "", pull: null, value: 0, text: "", caught: "", barred: "", typed: "" };

export const usePulling = create<PullingState>()((set, get) => {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let tried = "";

  // a group that was never moved has no entry yet
  const patchOf = (pull: PullOut, text: string) =>
    pull.pointer.startsWith("/groups/")
      ? [{ op: "add", path: pull.pointer, value: { text, unit: pull.unit } }]
      : [{ op: "replace", path: `${pull.pointer}/text`, value: text }];

  /** Tries what is pulled now, once the last try is a moment ago. */
  function soon(): void {
    timer ??= setTimeout(() => {
      timer = undefined;
      const { pull, text } = get();
      if (!pull || text === tried) return;
      tried = text;
      useDesign.getState().preview(patchOf(pull, text));
    }, PAUSE);
  }

  function put(found: Pulled): void {
    const barred = found.barred ?? "";
    if (found.text === get().text && barred === get().barred) return;
    set({ ...found, barred });
    soon();
  }

  return {
    ...NOTHING,
    begin: (part, pull) => {
      tried = "";
      set({ ...NOTHING, part, pull, value: pull.value });
    },
    to(by, scale, replace) {
      const { pull, typed } = get();
      if (!pull || typed) return;
      put(pulledTo(pull, by, scale, useDesign.getState().doc?.unit ?? "mm", replace));
    },
    type(typed) {
      const { pull } = get();
      if (!pull) return;
      set({ typed });
      const mm = Number(typed.replace(",", ".")) * pull.factor;
      if (typed && Number.isFinite(mm)) put(pulledBy(pull, mm));
    },
    async settle() {
      const { pull, text, value } = get();
      get().leave();
      if (!pull || !text || Math.abs(value - pull.value) < 1e-6) return;
      const what = pull.size || (!pull.axis && pull.face) || (pull.pointer.startsWith("/groups/") ? "moved" : pull.face);
      await useDesign.getState().commit(`${what}: ${text}`, patchOf(pull, text));
    },
    leave() {
      clearTimeout(timer);
      timer = undefined;
      if (get().pull) useDesign.getState().preview(null);
      set(NOTHING);
    },
  };
});

/** What can be pulled of a part or a group; nothing where nothing can. After an edit the last known stands, not `fresh`, until it is asked for again. */
export function usePulls(part: string, group = ""): { pulls: PullOut[]; fresh: boolean } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["pulls", id, revision, part, group],
    queryFn: () =>
      got(api.POST("/api/designs/{design_id}/pulls", { params: { path: { design_id: id } }, body: { part, group } })),
    enabled: Boolean(part || group),
    // points keep the focus over an edit
    placeholderData: (before, query) => (query?.queryKey[3] === part && query.queryKey[4] === group ? before : undefined),
    retry: false,
  });
  return { pulls: found.data ?? NONE, fresh: !found.isPlaceholderData };
}

const NONE: PullOut[] = [];

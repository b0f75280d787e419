// One open design: its head, the preview of what is being tried, edits on their way, and what to do when they clash.
import { create } from "zustand";
import { ApiError, api, got, said } from "../api/client";
import type { BuiltOut, ChangedOut, DesignOut, NestState, Patch } from "../api/types";
import { at, type Doc, type Entry } from "../lib/document";
import { beginning } from "../lib/entries";
import { keep, stand } from "./resources";
import { orderSearch, RETRY, sheetSearch } from "./searching";
import { ownName, sender, stepper } from "./sending";
import { holding, type Shown, shownBy } from "./told";

export type Waiting = { id: string; label: string; patch: Patch };
export type Clash = { edit: Waiting; theirs: string[]; revision: number };

type DesignState = {
  id: string;
  revision: number;
  doc: Doc | null;
  head: BuiltOut | null;
  /** what the server knows the head by */
  tag: string;
  trying: Shown | null;
  tryFault: { message: string; entry: string } | null;
  /** the patch that `trying` shows */
  tryPatch: Patch | null;
  undo: string;
  redo: string;
  waiting: Waiting[];
  saving: boolean;
  offline: boolean;
  /** what the server says while it cannot keep edits; empty where it is silent */
  trouble: string;
  clash: Clash | null;
  fault: string;
  missing: boolean;
  nest: NestState | null;
  /** parts whose order of bending is still being found */
  ordering: string[];
  open: (id: string) => Promise<void>;
  /** asks for the head anew, where what is beside the design has changed; nothing where none is open */
  askAgain: () => Promise<void>;
  close: () => void;
  preview: (patch: Patch | null) => void;
  commit: (label: string, patch: Patch) => Promise<boolean>;
  step: (way: "undo" | "redo") => Promise<void>;
  settle: (mine: boolean) => Promise<void>;
  /** gives up the edit that waits first, where the server cannot take it */
  leaveOut: () => Promise<void>;
  askNest: (quick: boolean, seconds?: number, stock?: string) => Promise<void>;
  stopNest: () => Promise<void>;
  clearFault: () => void;
};

/** Where the open design is kept. */
export type Held = { get: () => DesignState; set: (some: Partial<DesignState>) => void };

const NOTHING = {
  id: "",
  revision: 0,
  doc: null,
  head: null,
  tag: "",
  trying: null,
  tryFault: null,
  waiting: [],
  clash: null,
  fault: "",
  missing: false,
  nest: null,
  ordering: [],
  offline: false,
  trouble: "",
} satisfies Partial<DesignState>;

/** Gives what tries a patch on the server; only the last one that was asked for is shown. */
function trials({ get, set }: Held) {
  let trial: AbortController | null = null;
  let last = 0;

  function run(patch: Patch | null): void {
    trial?.abort();
    const number = ++last;
    if (!patch) {
      set({ trying: null, tryFault: null });
      return;
    }
    trial = new AbortController();
    const body = { patch, ...holding(get()) };
    got(api.POST("/api/designs/{design_id}/preview", { params: { path: { design_id: get().id } }, body, signal: trial.signal }))
      .then((found) => {
        keep(found.resources);
        if (number !== last) return;
        const trying = shownBy(found, get());
        // changes of a head that is no more: what is tried is asked for again, on the one that stands now
        if (trying) set({ trying, tryFault: null, tryPatch: patch });
        else run(patch);
      })
      .catch((error) => {
        if (number !== last || error instanceof DOMException) return;
        // an error of its own in what is only tried is said beside it: nothing waits to be kept
        if (error instanceof ApiError && error.offline && error.status !== 500) set({ offline: true });
        else if (error instanceof ApiError) set({ tryFault: { message: error.message, entry: String(error.fault.entry ?? "") } });
      });
  }

  return {
    leave() {
      trial?.abort();
      last++;
    },
    run,
  };
}

export const useDesign = create<DesignState>()((set, get) => {
  const held: Held = { get, set };
  const path = () => ({ design_id: get().id });
  const head = () => got(api.GET("/api/designs/{design_id}", { params: { path: path() } }));
  let retry: ReturnType<typeof setTimeout> | undefined;

  async function take(answer: DesignOut | ChangedOut): Promise<void> {
    if (answer.id !== get().id) return;
    let found = answer;
    let shown = shownBy(found, get());
    if (!shown) {
      found = await head();
      if (found.id !== get().id) return;
      shown = shownBy(found, get()) as Shown;
    }
    stand(shown.built);
    keep(found.resources);
    const { revision, tag, undo, redo, ordering } = found;
    const seen = { doc: shown.doc, head: shown.built, trying: null, tryFault: null };
    set({ revision, tag, undo, redo, ordering, ...seen, offline: false, trouble: "", missing: false });
    orders.follow(ordering);
    sheets.afterARest();
  }

  function fail(error: unknown): void {
    if (error instanceof DOMException) return;
    if (error instanceof ApiError && error.offline) {
      set({ offline: true, trouble: error.status ? error.message : "" });
      clearTimeout(retry);
      retry = setTimeout(() => void send(), RETRY);
    } else if (error instanceof ApiError && error.status === 401) {
      window.location.assign("/");
    } else if (error instanceof ApiError && error.status === 404 && !get().doc) {
      set({ missing: true });
    } else {
      set({ fault: said(error), trying: null });
    }
  }

  const trial = trials(held);
  const orders = orderSearch(held);
  const sheets = sheetSearch(held, fail);
  const send = sender(held, { take, fail });
  const step = stepper(held, { take, fail, send });

  return {
    ...NOTHING,
    tryPatch: null,
    undo: "",
    redo: "",
    saving: false,

    async open(id) {
      get().close();
      set({ id });
      try {
        await take(await head());
      } catch (error) {
        fail(error);
        if (error instanceof ApiError && error.offline) {
          clearTimeout(retry);
          retry = setTimeout(() => void get().open(id), RETRY);
        }
      }
    },

    async askAgain() {
      if (!get().doc) return;
      await head().then(take).catch(fail);
    },

    close() {
      clearTimeout(retry);
      for (const search of [sheets, orders]) search.forget();
      trial.leave();
      set(NOTHING);
    },

    preview: trial.run,

    async commit(label, patch) {
      trial.leave();
      if (!patch.length) return true;
      set({ waiting: [...get().waiting, { id: ownName(), label, patch }] });
      return send();
    },

    step(way) {
      trial.leave();
      return step(way);
    },

    async settle(mine) {
      const clash = get().clash;
      set({ clash: null });
      if (!clash) return;
      if (mine) await send();
      else set({ waiting: get().waiting.slice(1) });
    },

    async leaveOut() {
      set({ waiting: get().waiting.slice(1), trouble: "" });
      await send();
    },

    askNest: sheets.ask,
    stopNest: sheets.stop,
    clearFault: () => set({ fault: "" }),
  };
});

/** What is on screen: what is being tried, else the head. */
export function useShown(): Shown | null {
  const trying = useDesign((s) => s.trying);
  const doc = useDesign((s) => s.doc);
  const head = useDesign((s) => s.head);
  if (trying) return trying;
  return doc && head ? { doc, built: head } : null;
}

/** An entry as it would be typed now: bare numbers are in the design's unit. */
export function typed(text: string): Entry {
  return { text, unit: useDesign.getState().doc?.unit ?? "mm" };
}

/** What a new entry of the open design begins with; a plain length in millimetres becomes a round one in inches. */
export function fresh(first: string): Entry {
  return beginning(first, useDesign.getState().doc?.unit ?? "mm");
}

/** The text of the entry at a pointer, of a document. */
export function entryAt(doc: Doc, path: string): { text: string; unit: "mm" | "in" } | undefined {
  return at(doc, path) as { text: string; unit: "mm" | "in" } | undefined;
}

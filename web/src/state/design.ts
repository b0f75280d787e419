// One open design: its head, the preview of what is being tried, edits on their way, and what to do when they clash.
import { create } from "zustand";
import { ApiError, api, got } from "../api/client";
import type { BuiltOut, DesignOut, NestState, Patch } from "../api/types";
import { at, type Doc, type Entry } from "../lib/document";
import { beginning } from "../lib/entries";
import { keep, known } from "./resources";

export type Waiting = { label: string; patch: Patch };
export type Clash = { edit: Waiting; theirs: string[]; revision: number };

type DesignState = {
  id: string;
  revision: number;
  doc: Doc | null;
  head: BuiltOut | null;
  trying: { doc: Doc; built: BuiltOut } | null;
  tryFault: { message: string; entry: string } | null;
  /** the patch that `trying` shows */
  tryPatch: Patch | null;
  undo: string;
  redo: string;
  waiting: Waiting[];
  saving: boolean;
  offline: boolean;
  clash: Clash | null;
  fault: string;
  missing: boolean;
  nest: NestState | null;
  /** parts whose order of bending is still being found */
  ordering: string[];
  open: (id: string) => Promise<void>;
  close: () => void;
  preview: (patch: Patch | null) => void;
  commit: (label: string, patch: Patch) => Promise<boolean>;
  step: (way: "undo" | "redo") => Promise<void>;
  settle: (mine: boolean) => Promise<void>;
  askNest: (quick: boolean, seconds?: number, stock?: string) => Promise<void>;
  stopNest: () => Promise<void>;
  clearFault: () => void;
};

const RETRY = 2000;
const REST = 300;
const POLL = 350;

let trial: AbortController | null = null;
let trialNumber = 0;
let nestAsked = 0;
let nestShown = 0;
let retry: ReturnType<typeof setTimeout> | undefined;
let rest: ReturnType<typeof setTimeout> | undefined;
let poll: ReturnType<typeof setTimeout> | undefined;
let orders: ReturnType<typeof setTimeout> | undefined;

export const useDesign = create<DesignState>()((set, get) => {
  const path = () => ({ design_id: get().id });

  function take(found: DesignOut): void {
    if (found.id !== get().id) return;
    keep(found.resources);
    set({
      revision: found.revision,
      doc: found.document as unknown as Doc,
      head: found.built,
      trying: null,
      tryFault: null,
      undo: found.undo,
      redo: found.redo,
      offline: false,
      missing: false,
      ordering: found.ordering,
    });
    clearTimeout(orders);
    if (found.ordering.length) orders = setTimeout(() => void watchOrders(), POLL);
    clearTimeout(rest);
    rest = setTimeout(() => void get().askNest(true), REST);
  }

  function fail(error: unknown): void {
    if (error instanceof DOMException) return;
    if (error instanceof ApiError && error.offline) {
      set({ offline: true });
      clearTimeout(retry);
      retry = setTimeout(() => void send(), RETRY);
    } else if (error instanceof ApiError && error.status === 401) {
      window.location.assign("/");
    } else if (error instanceof ApiError && error.status === 404 && !get().doc) {
      set({ missing: true });
    } else {
      set({ fault: error instanceof Error ? error.message : String(error), trying: null });
    }
  }

  let underway: Promise<boolean> | null = null;

  /** Sends what waits, one edit after the other; a stale one is replayed where nothing that it touches has changed. */
  function send(): Promise<boolean> {
    // what is added while edits are on their way goes with them
    underway ??= sendAll().finally(() => {
      underway = null;
    });
    return underway;
  }

  async function sendAll(): Promise<boolean> {
    set({ saving: true });
    let fine = true;
    try {
      while (get().waiting.length) {
        const edit = get().waiting[0];
        try {
          take(
            await got(
              api.POST("/api/designs/{design_id}/edits", {
                params: { path: path(), header: { "If-Match": `"${get().revision}"` } },
                body: { label: edit.label, patch: edit.patch, have: known() },
              }),
            ),
          );
        } catch (error) {
          if (error instanceof ApiError && error.status === 412) {
            if (await rebase(edit)) continue;
            fine = false;
            break;
          }
          if (error instanceof ApiError && error.offline) throw error;
          fine = false;
          fail(error);
        }
        set({ waiting: get().waiting.slice(1) });
      }
      if (get().offline) {
        take(await got(api.GET("/api/designs/{design_id}", { params: { path: path() } })));
      }
    } catch (error) {
      fine = false;
      fail(error);
    } finally {
      set({ saving: false });
    }
    return fine;
  }

  /** Fetches the head; true where the edit can be replayed on it, otherwise the clash is shown. */
  async function rebase(edit: Waiting): Promise<boolean> {
    const before = get().revision;
    const since = await got(api.GET("/api/designs/{design_id}/edits", { params: { path: path(), query: { after: before } } }));
    take(await got(api.GET("/api/designs/{design_id}", { params: { path: path() } })));
    const mine = edit.patch.map((op) => String(op.path));
    const touch = (a: string, b: string) => a === b || a.startsWith(`${b}/`) || b.startsWith(`${a}/`);
    const theirs = since.flatMap((e) => e.paths).filter((p) => mine.some((m) => touch(m, p)));
    if (!theirs.length) return true;
    set({ clash: { edit, theirs: [...new Set(theirs)], revision: get().revision } });
    return false;
  }

  /** Asks whether the orders of bending are found, until they are; what they show is said then. */
  async function watchOrders(): Promise<void> {
    const { id, revision } = get();
    if (!id) return;
    try {
      const found = await got(api.GET("/api/designs/{design_id}/ordering", { params: { path: path() } }));
      const head = get().head;
      if (get().id !== id || get().revision !== revision || found.revision !== revision || !head) return;
      if (found.ordering.length) orders = setTimeout(() => void watchOrders(), POLL);
      else set({ head: { ...head, problems: found.problems } });
      set({ ordering: found.ordering });
    } catch {
      orders = setTimeout(() => void watchOrders(), RETRY);
    }
  }

  /** Asks for the state of the sheets in one way or another; one that was asked for before what is shown is late, and not shown. */
  async function seeNest(asked: () => Promise<NestState>): Promise<void> {
    const number = ++nestAsked;
    const id = get().id;
    const nest = await asked();
    if (get().id !== id || number < nestShown) return;
    nestShown = number;
    set({ nest });
    clearTimeout(poll);
    if (nest.run && (nest.run.status === "queued" || nest.run.status === "running"))
      poll = setTimeout(() => void watchNest(), POLL);
  }

  async function watchNest(): Promise<void> {
    if (!get().id) return;
    try {
      await seeNest(() => got(api.GET("/api/designs/{design_id}/nest", { params: { path: path() } })));
    } catch {
      clearTimeout(poll);
      poll = setTimeout(() => void watchNest(), RETRY);
    }
  }

  return {
    id: "",
    revision: 0,
    doc: null,
    head: null,
    trying: null,
    tryFault: null,
    tryPatch: null,
    undo: "",
    redo: "",
    waiting: [],
    saving: false,
    offline: false,
    clash: null,
    fault: "",
    missing: false,
    nest: null,
    ordering: [],

    async open(id) {
      get().close();
      set({ id });
      try {
        take(await got(api.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } })));
      } catch (error) {
        fail(error);
        if (error instanceof ApiError && error.offline) {
          clearTimeout(retry);
          retry = setTimeout(() => void get().open(id), RETRY);
        }
      }
    },

    close() {
      for (const timer of [retry, rest, poll, orders]) clearTimeout(timer);
      trial?.abort();
      set({
        id: "",
        revision: 0,
        doc: null,
        head: null,
        trying: null,
        tryFault: null,
        waiting: [],
        clash: null,
        fault: "",
        missing: false,
        nest: null,
        ordering: [],
        offline: false,
      });
    },

    preview(patch) {
      trial?.abort();
      const number = ++trialNumber;
      if (!patch) {
        set({ trying: null, tryFault: null });
        return;
      }
      trial = new AbortController();
      got(
        api.POST("/api/designs/{design_id}/preview", {
          params: { path: path() },
          body: { patch, have: known() },
          signal: trial.signal,
        }),
      )
        .then((found) => {
          keep(found.resources);
          if (number === trialNumber)
            set({ trying: { doc: found.document as unknown as Doc, built: found.built }, tryFault: null, tryPatch: patch });
        })
        .catch((error) => {
          if (number !== trialNumber || error instanceof DOMException) return;
          if (error instanceof ApiError && error.offline) set({ offline: true });
          else if (error instanceof ApiError)
            set({ tryFault: { message: error.message, entry: String(error.fault.entry ?? "") } });
        });
    },

    async commit(label, patch) {
      trial?.abort();
      trialNumber++;
      if (!patch.length) return true;
      set({ waiting: [...get().waiting, { label, patch }] });
      return send();
    },

    async step(way) {
      trial?.abort();
      trialNumber++;
      try {
        const options = { params: { path: path(), header: { "If-Match": `"${get().revision}"` } }, body: { have: known() } };
        const call =
          way === "undo"
            ? api.POST("/api/designs/{design_id}/undo", options)
            : api.POST("/api/designs/{design_id}/redo", options);
        take(await got(call));
      } catch (error) {
        if (error instanceof ApiError && error.status === 412) {
          take(await got(api.GET("/api/designs/{design_id}", { params: { path: path() } })));
          set({ fault: "The design was changed elsewhere meanwhile; look at it, then undo again." });
        } else fail(error);
      }
    },

    async settle(mine) {
      const clash = get().clash;
      set({ clash: null });
      if (!clash) return;
      if (mine) await send();
      else set({ waiting: get().waiting.slice(1) });
    },

    async askNest(quick, seconds, stock = "") {
      try {
        await seeNest(() =>
          got(api.POST("/api/designs/{design_id}/nest", { params: { path: path() }, body: { quick, seconds, stock } })),
        );
        void watchNest();
      } catch (error) {
        if (!quick) fail(error);
        else if (error instanceof ApiError && (error.offline || error.status >= 500)) {
          // asked for on its own, so nobody else would ask again
          clearTimeout(rest);
          rest = setTimeout(() => void get().askNest(true), RETRY);
        }
      }
    },

    async stopNest() {
      const run = get().nest?.run;
      if (!run) return;
      try {
        await seeNest(() =>
          got(api.DELETE("/api/designs/{design_id}/nest/{run_id}", { params: { path: { ...path(), run_id: run.id } } })),
        );
        void watchNest();
      } catch (error) {
        fail(error);
      }
    },

    clearFault: () => set({ fault: "" }),
  };
});

/** What is on screen: what is being tried, else the head. */
export function useShown(): { doc: Doc; built: BuiltOut } | null {
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

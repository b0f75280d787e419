// Edits on their way to the server: one after the other, and what happens where somebody else was quicker.
import { ApiError, api, got } from "../api/client";
import type { ChangedOut, DesignOut } from "../api/types";
import type { Held, Waiting } from "./design";
import { holding } from "./told";

type Ways = {
  /** takes a new head */
  take: (found: DesignOut | ChangedOut) => Promise<void>;
  fail: (error: unknown) => void;
};

/** A name that no other edit has, by which one that was sent twice is made once; also where the page came over plain HTTP. */
export function ownName(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (n) => n.toString(16).padStart(2, "0")).join("");
}

/** Gives the function that sends what waits; whether all of it went well. */
export function sender({ get, set }: Held, { take, fail }: Ways): () => Promise<boolean> {
  const path = () => ({ design_id: get().id });
  const head = () => got(api.GET("/api/designs/{design_id}", { params: { path: path() } }));
  let underway: Promise<boolean> | null = null;

  /** Fetches the head; true where the edit can be replayed on it, otherwise the clash is shown. */
  async function rebase(edit: Waiting): Promise<boolean> {
    const before = get().revision;
    // the head first: what comes after it is seen by the next try, and nothing can come between it and its history
    const found = await head();
    const since = await got(api.GET("/api/designs/{design_id}/edits", { params: { path: path(), query: { after: before } } }));
    await take(found);
    const mine = edit.patch.map((op) => String(op.path));
    const touch = (a: string, b: string) => a === b || a.startsWith(`${b}/`) || b.startsWith(`${a}/`);
    const theirs = since.flatMap((e) => e.paths).filter((p) => mine.some((m) => touch(m, p)));
    if (!theirs.length) return true;
    set({ clash: { edit, theirs: [...new Set(theirs)], revision: get().revision } });
    return false;
  }

  /** Sends one edit: done, refused, or stale and put to choice. */
  async function sendOne(edit: Waiting): Promise<"done" | "refused" | "clash"> {
    for (;;)
      try {
        const header = { "If-Match": `"${get().revision}"` };
        const body = { id: edit.id, label: edit.label, patch: edit.patch, ...holding(get()) };
        await take(await got(api.POST("/api/designs/{design_id}/edits", { params: { path: path(), header }, body })));
        return "done";
      } catch (error) {
        if (error instanceof ApiError && error.offline) throw error;
        if (error instanceof ApiError && error.status === 412) {
          if (await rebase(edit)) continue;
          return "clash";
        }
        fail(error);
        return "refused";
      }
  }

  async function sendAll(): Promise<boolean> {
    set({ saving: true });
    let fine = true;
    try {
      while (get().waiting.length) {
        const came = await sendOne(get().waiting[0]);
        fine &&= came === "done";
        if (came === "clash") break;
        set({ waiting: get().waiting.slice(1) });
      }
      if (get().offline) await take(await head());
    } catch (error) {
      fine = false;
      fail(error);
    } finally {
      set({ saving: false });
    }
    return fine;
  }

  return () => {
    // what is added while edits are on their way goes with them
    underway ??= sendAll().finally(() => {
      underway = null;
    });
    return underway;
  };
}

/** Gives the function that undoes or redoes: one step after the other as they were pressed, once all that is on its way has arrived. */
export function stepper(
  { get, set }: Held,
  { take, fail, send }: Ways & { send: () => Promise<boolean> },
): (way: "undo" | "redo") => Promise<void> {
  const path = () => ({ design_id: get().id });
  let steps: Promise<void> = Promise.resolve();

  async function stepped(way: "undo" | "redo"): Promise<void> {
    if (get().waiting.length && !(await send())) return;
    try {
      const options = { params: { path: path(), header: { "If-Match": `"${get().revision}"` } }, body: holding(get()) };
      const call =
        way === "undo" ? api.POST("/api/designs/{design_id}/undo", options) : api.POST("/api/designs/{design_id}/redo", options);
      await take(await got(call));
    } catch (error) {
      if (error instanceof ApiError && error.status === 412) {
        await take(await got(api.GET("/api/designs/{design_id}", { params: { path: path() } })));
        set({ fault: "The design was changed elsewhere meanwhile; look at it, then undo again." });
      } else fail(error);
    }
  }

  return (way) => {
    steps = steps.then(() => stepped(way));
    return steps;
  };
}

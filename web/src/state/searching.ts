// What is worked out in the background for the open design: its sheets, and the orders in which its parts are bent.
import { ApiError, api, got } from "../api/client";
import type { NestState } from "../api/types";
import type { Held } from "./design";

export const RETRY = 2000;
const REST = 300;
const POLL = 350;

/** How many sheets, of those that are laid out as the design is, have no times from their programs yet. */
export function untimed(nest: NestState): number {
  const sheets = nest.stocks.flatMap((s) => (s.current ? (s.layout?.sheets ?? []) : []));
  return sheets.filter((sheet) => !sheet.timed).length;
}

/** Looks after the sheets of the open design: they are asked for, watched while they are searched, and stopped. */
export function sheetSearch({ get, set }: Held, fail: (error: unknown) => void) {
  const path = () => ({ design_id: get().id });
  let rest: ReturnType<typeof setTimeout> | undefined;
  let poll: ReturnType<typeof setTimeout> | undefined;
  let timing: ReturnType<typeof setTimeout> | undefined;
  let asked = 0;
  let shown = 0;

  function later(after: number): void {
    clearTimeout(rest);
    rest = setTimeout(() => void get().askNest(true), after);
  }

  function watchAgain(after: number): void {
    clearTimeout(poll);
    poll = setTimeout(() => void watch(), after);
  }

  /** Asks for the state of the sheets in one way or another; one that was asked for before what is shown is late, and not shown. */
  async function see(ask: () => Promise<NestState>): Promise<void> {
    const number = ++asked;
    const id = get().id;
    const nest = await ask();
    if (get().id !== id || number < shown) return;
    shown = number;
    set({ nest });
    clearTimeout(poll);
    clearTimeout(timing);
    const left = untimed(nest);
    if (nest.run && (nest.run.status === "queued" || nest.run.status === "running")) watchAgain(POLL);
    else if (left) timing = setTimeout(() => void time(left), REST);
  }

  /** Has the times of sheets worked out from their programs, a few at a time; given up where none came. */
  async function time(before: number): Promise<void> {
    if (!get().id) return;
    try {
      await see(async () => {
        const nest = await got(api.POST("/api/designs/{design_id}/nest-times", { params: { path: path() } }));
        if (untimed(nest) >= before) throw new Error("none came");
        return nest;
      });
    } catch {
      // the times stay those of the lengths, and the next change asks again
    }
  }

  async function watch(): Promise<void> {
    if (!get().id) return;
    try {
      await see(() => got(api.GET("/api/designs/{design_id}/nest", { params: { path: path() } })));
    } catch {
      watchAgain(RETRY);
    }
  }

  return {
    /** They are asked for once nothing has changed for a moment. */
    afterARest: () => later(REST),
    forget() {
      clearTimeout(rest);
      clearTimeout(poll);
      clearTimeout(timing);
    },
    async ask(quick: boolean, seconds?: number, stock = "") {
      try {
        await see(() =>
          got(api.POST("/api/designs/{design_id}/nest", { params: { path: path() }, body: { quick, seconds, stock } })),
        );
        void watch();
      } catch (error) {
        if (!quick) fail(error);
        // asked for on its own, so nobody else would ask again
        else if (error instanceof ApiError && (error.offline || error.status >= 500)) later(RETRY);
      }
    },
    async stop() {
      const run = get().nest?.run;
      if (!run) return;
      try {
        await see(() =>
          got(api.DELETE("/api/designs/{design_id}/nest/{run_id}", { params: { path: { ...path(), run_id: run.id } } })),
        );
        void watch();
      } catch (error) {
        fail(error);
      }
    },
  };
}

/** Asks whether the orders of bending are found, until they are; what they show is said then. */
export function orderSearch({ get, set }: Held) {
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function watch(): Promise<void> {
    const { id, revision } = get();
    if (!id) return;
    try {
      const found = await got(api.GET("/api/designs/{design_id}/ordering", { params: { path: { design_id: id } } }));
      const head = get().head;
      if (get().id !== id || get().revision !== revision || found.revision !== revision || !head) return;
      if (found.ordering.length) timer = setTimeout(() => void watch(), POLL);
      else set({ head: { ...head, problems: found.problems }, tag: found.tag });
      set({ ordering: found.ordering });
    } catch {
      timer = setTimeout(() => void watch(), RETRY);
    }
  }

  return {
    /** There is a new head, with parts whose order is still being found, or none. */
    follow(ordering: string[]) {
      clearTimeout(timer);
      if (ordering.length) timer = setTimeout(() => void watch(), POLL);
    },
    forget: () => clearTimeout(timer),
  };
}

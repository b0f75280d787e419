// Designs that are cut together, and their sheets.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, got, said } from "../api/client";
import type { BatchOut, BatchState } from "../api/types";
import { useActing } from "./acting";
import { untimed } from "./searching";

const POLL = 500;
const at = (id: string) => ({ params: { path: { batch_id: id } } });
const layOut = (id: string) => got(api.POST("/api/batches/{batch_id}/nest", { ...at(id), body: { quick: true, stock: "" } }));

export function useBatches() {
  return useQuery({ queryKey: ["batches"], queryFn: () => got(api.GET("/api/batches")) });
}

export function useBatchChanges() {
  const { act, fault } = useActing("batches", "batch");
  return {
    fault,
    /** Keeps the batch, and has what changed laid out. */
    keep: (next: BatchOut) =>
      act(async () => {
        const body = { name: next.name, items: next.items.map(({ design, quantity }) => ({ design, quantity })) };
        await got(api.PUT("/api/batches/{batch_id}", { ...at(next.id), body }));
        await layOut(next.id);
      }),
    begin: (name: string, made: (id: string) => void) =>
      act(async () => made((await got(api.POST("/api/batches", { body: { name, items: [] } }))).id)),
    remove: (id: string) => act(() => got(api.DELETE("/api/batches/{batch_id}", at(id)))),
    search: (id: string, seconds: number) =>
      act(() => got(api.POST("/api/batches/{batch_id}/nest", { ...at(id), body: { quick: false, seconds, stock: "" } }))),
    stop: (id: string, run: string) =>
      act(() => got(api.DELETE("/api/batches/{batch_id}/nest/{run_id}", { params: { path: { batch_id: id, run_id: run } } }))),
  };
}

/** Sends sheets of a batch's layout (none for all of the stock) to a machine; what went wrong as a sentence, '' where they wait there now. */
export function useSendTogether(batch: string) {
  const client = useQueryClient();
  return async (digest: string, numbers: number[], machine: string): Promise<string> => {
    try {
      await got(api.POST("/api/batches/{batch_id}/jobs", { ...at(batch), body: { digest, numbers, machine, due: null } }));
    } catch (error) {
      return said(error);
    }
    // what was sent is not laid out any more, and the rest is laid out anew
    await client.invalidateQueries({ queryKey: ["batch", batch] });
    return "";
  };
}

/** Whether its sheets are still being laid out. */
export function isBusy(state: BatchState | undefined): boolean {
  return state?.run?.status === "queued" || state?.run?.status === "running";
}

/** The sheets of a batch, asked for while they are laid out; laid out anew where a design in it has changed since. */
export function useBatchSheets(batch: BatchOut) {
  const state = useQuery({
    queryKey: ["batch", batch.id],
    queryFn: (): Promise<BatchState> => got(api.GET("/api/batches/{batch_id}/nest", at(batch.id))),
    refetchInterval: (q) => (isBusy(q.state.data) ? POLL : false),
  });
  const found = state.data;
  const missing = found?.stocks.some((s) => !s.current) && !isBusy(found);
  useEffect(() => {
    if (missing && batch.items.length) void layOut(batch.id).then(() => state.refetch());
  }, [missing, batch.id, batch.items.length, state.refetch]);
  const left = found && !missing && !isBusy(found) ? untimed(found) : 0;
  useEffect(() => {
    if (left)
      void got(api.POST("/api/batches/{batch_id}/nest-times", at(batch.id))).then(
        () => state.refetch(),
        () => {}, // the times stay those of the lengths
      );
  }, [left, batch.id, state.refetch]);
  return state;
}

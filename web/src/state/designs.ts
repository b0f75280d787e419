// A maker's designs, and what is done with one of them as a whole.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { persist } from "zustand/middleware";
import { ApiError, api, fileIn, got, said } from "../api/client";
import type { DesignRow } from "../api/types";
import { useActing } from "./acting";

const KEY = "designs";

export function useDesigns() {
  return useQuery({ queryKey: [KEY], queryFn: () => got(api.GET("/api/designs")) });
}

export function useDesignChanges() {
  const { act, fault } = useActing(KEY);
  const at = (id: string) => ({ params: { path: { design_id: id } } });
  return {
    fault,
    copy: (id: string) => act(() => got(api.POST("/api/designs/{design_id}/copy", at(id)))),
    rename: (id: string, name: string) =>
      act(() => got(api.POST("/api/designs/{design_id}/name", { ...at(id), body: { name } }))),
    restore: (id: string) => act(() => got(api.POST("/api/designs/{design_id}/restore", at(id)))),
    removeForGood: (id: string) => act(() => got(api.DELETE("/api/designs/{design_id}/for-good", at(id)))),
    remove: (id: string) => act(() => got(api.DELETE("/api/designs/{design_id}", at(id)))),
    upload: (file: File) => act(() => got(api.POST("/api/designs/upload", fileIn(file)))),
  };
}

/** What was deleted and can be brought back. */
export function useDeleted() {
  return useQuery({ queryKey: [KEY, "deleted"], queryFn: () => got(api.GET("/api/designs/deleted")) });
}

/** What a design can be begun from, and what each asks. */
export function useStarters() {
  const found = useQuery({
    queryKey: ["starters"],
    queryFn: () => got(api.GET("/api/designs/starters")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return found.data ?? [];
}

export type Answers = { starter: string; unit: "mm" | "in"; values: Record<string, string> };

/** A starter as it would begin with these answers; while others are worked out, as it was. */
export function useStarterShown(answers: Answers) {
  const found = useQuery({
    queryKey: ["starter", answers],
    queryFn: () => got(api.POST("/api/designs/starters/shown", { body: answers })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const entry = found.error instanceof ApiError ? (found.error.fault.entry ?? "") : "";
  return { shown: found.error ? null : (found.data ?? null), fault: found.error ? said(found.error) : "", entry };
}

/** A new design from a starter; its id. */
export function beginDesign(name: string, answers: Answers): Promise<string> {
  return got(api.POST("/api/designs", { body: { name, ...answers } })).then((made) => made.id);
}

type UnitState = { unit: "mm" | "in" | ""; choose: (unit: "mm" | "in") => void };

/** The unit that new designs begin in; '' until it was chosen once. */
export const useUnit = create<UnitState>()(
  persist((set) => ({ unit: "", choose: (unit) => set({ unit }) }), { name: "zygon-unit" }),
);

export type Order = "latest" | "name" | "parts";

/** The designs that hold all the words, in an order. */
export function listed(rows: DesignRow[], words: string, order: Order): DesignRow[] {
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = rows.filter((d) => asked.every((w) => d.name.toLowerCase().includes(w)));
  const by: Record<Order, (a: DesignRow, b: DesignRow) => number> = {
    latest: (a, b) => b.updated.localeCompare(a.updated),
    name: (a, b) => a.name.localeCompare(b.name, "en", { numeric: true }),
    parts: (a, b) => b.parts - a.parts || a.name.localeCompare(b.name),
  };
  return [...found].sort(by[order]);
}

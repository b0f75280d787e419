// Programs for the cutter: the sheets there are, one that is played, and how far it is.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { api, got, said } from "../api/client";
import type { MaterialOut, PowerTestOut, ProgramOut, ProgramSheetOut } from "../api/types";
import { useDesign } from "./design";

type DryRun = {
  /** Whether Shop shows it. */
  open: boolean;
  stock: string;
  number: number;
  under: boolean;
  show: (open: boolean) => void;
  turnTo: (stock: string, number: number, under: boolean) => void;
};

export const useDryRun = create<DryRun>((set) => ({
  open: false,
  stock: "",
  number: 1,
  under: false,
  show: (open) => set({ open }),
  turnTo: (stock, number, under) => set({ stock, number, under }),
}));

/** Every sheet as nested; `nests` is what tells that it lies otherwise. */
export function useProgramSheets(nests: string): { sheets: ProgramSheetOut[] | null; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["program sheets", id, revision, nests],
    queryFn: () => got(api.GET("/api/designs/{design_id}/programs", { params: { path: { design_id: id } } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { sheets: found.data ?? null, fault: found.error ? said(found.error) : "" };
}

export function useProgram(sheet: ProgramSheetOut | undefined, nests: string): { program: ProgramOut | null; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const stock = sheet?.stock ?? "";
  const number = sheet?.number ?? 0;
  const under = sheet?.under ?? false;
  const found = useQuery({
    queryKey: ["program", id, revision, nests, stock, number, under],
    queryFn: () =>
      got(
        api.GET("/api/designs/{design_id}/programs/{stock}/{number}", {
          params: { path: { design_id: id, stock, number }, query: { under } },
        }),
      ),
    enabled: Boolean(sheet && !sheet.why),
    // what was found last stands while the next is looked for
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 120_000,
  });
  const its = found.data?.stock === stock && found.data.number === number && found.data.under === under;
  return { program: found.error || !its ? null : (found.data ?? null), fault: found.error ? said(found.error) : "" };
}

/** What a router's program leaves of a sheet; asked for while it is looked at. */
export function useMaterial(program: ProgramOut, nests: string, on: boolean): { material: MaterialOut | null; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const { stock, number, under } = program;
  const found = useQuery({
    queryKey: ["material", id, revision, nests, stock, number, under],
    queryFn: () =>
      got(
        api.GET("/api/designs/{design_id}/programs/{stock}/{number}/material", {
          params: { path: { design_id: id, stock, number }, query: { under } },
        }),
      ),
    enabled: on,
    retry: false,
    gcTime: 60_000,
  });
  return { material: found.data ?? null, fault: found.error ? said(found.error) : "" };
}

/** How wide the bit is engaged in each move of a router's program (mm), once that is found. */
export function useEngaged(program: ProgramOut, nests: string): number[] | null {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const { stock, number, under } = program;
  const found = useQuery({
    queryKey: ["engaged", id, revision, nests, stock, number, under],
    queryFn: () =>
      got(
        api.GET("/api/designs/{design_id}/programs/{stock}/{number}/engaged", {
          params: { path: { design_id: id, stock, number }, query: { under } },
        }),
      ),
    enabled: program.bits.length > 0,
    retry: false,
    gcTime: 60_000,
  });
  return found.data?.length === program.x.length ? found.data : null;
}

type Tried = { stock: string; what: "cut" | "mark"; slow: number; fast: number; weak: number; strong: number };

/** What is asked of a test piece, as the end of an address. */
export const testQuery = ({ what, slow, fast, weak, strong }: Tried): string =>
  new URLSearchParams({ what, slow: `${slow}`, fast: `${fast}`, weak: `${weak}`, strong: `${strong}` }).toString();

/** What a test piece for speed and power would try. */
export function usePowerTest(asked: Tried, on: boolean): { test: PowerTestOut | null; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const { stock, ...query } = asked;
  const found = useQuery({
    queryKey: ["power test", id, revision, asked],
    queryFn: () =>
      got(api.GET("/api/designs/{design_id}/power-test/{stock}", { params: { path: { design_id: id, stock }, query } })),
    enabled: on,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { test: found.error ? null : (found.data ?? null), fault: found.error ? said(found.error) : "" };
}

/** Begins the cut that is nearest to a place on a sheet (mm) there: an edit; what went wrong as a sentence. */
export async function beginHere(stock: string, number: number, x: number, y: number): Promise<string> {
  const { id, commit } = useDesign.getState();
  try {
    const { label, patch } = await got(
      api.POST("/api/designs/{design_id}/programs/{stock}/{number}/begin", {
        params: { path: { design_id: id, stock, number } },
        body: { x, y },
      }),
    );
    await commit(label, patch);
    return "";
  } catch (error) {
    return said(error);
  }
}

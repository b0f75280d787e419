// Programs for the cutter: the sheets there are, one that is played, and how far it is.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { api, got, said } from "../api/client";
import type { ProgramOut, ProgramSheetOut } from "../api/types";
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

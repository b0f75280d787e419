// Hardware of the catalogue, found by words and sizes.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, got, said } from "../api/client";
import type { HardwareOut } from "../api/types";
import { useDesign } from "./design";

/** What words and sizes mean; what goes best through a hole (mm) comes first. Nothing is asked while nothing is typed. */
export function useHardware(text: string, hole?: number): { found: HardwareOut[]; fault: string } {
  const wanted = text.trim();
  const asked = useQuery({
    queryKey: ["hardware", wanted, hole],
    queryFn: () => got(api.GET("/api/hardware", { params: { query: { text: wanted, hole } } })),
    enabled: wanted.length > 1,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  if (wanted.length < 2) return { found: [], fault: "" };
  return asked.error ? { found: [], fault: said(asked.error) } : { found: asked.data ?? [], fault: "" };
}

export type Fits = Awaited<ReturnType<typeof fits>>[number];
const fits = (design_id: string, part: string, on: string) =>
  got(api.POST("/api/designs/{design_id}/hangings", { params: { path: { design_id } }, body: { part, on } }));

/** The hinges and slides of the catalogue that fit between two parts as they stand; none while one of them is not chosen. */
export function useFits(part: string, on: string): { found: Fits[]; fault: string; asking: boolean } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const wanted = part !== "" && on !== "" && part !== on;
  const asked = useQuery({
    queryKey: ["hangings", id, revision, part, on],
    queryFn: () => fits(id, part, on),
    enabled: wanted,
    retry: false,
  });
  if (!wanted) return { found: [], fault: "", asking: false };
  return { found: asked.data ?? [], fault: asked.error ? said(asked.error) : "", asking: asked.isPending };
}

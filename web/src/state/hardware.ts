// Hardware of the catalogue, found by words and sizes.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, got, said } from "../api/client";
import type { HardwareOut } from "../api/types";

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

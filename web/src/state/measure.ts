// What lies between the places that are picked, from the core.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { AboutOut, MeasureOut } from "../api/types";
import type { Place } from "../lib/document";
import { useDesign } from "./design";

export function useMeasure(picks: Place[]): { found: MeasureOut | null; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const asked = useQuery({
    queryKey: ["measure", id, revision, JSON.stringify(picks)],
    queryFn: () =>
      got(
        api.POST("/api/designs/{design_id}/measure", {
          params: { path: { design_id: id } },
          body: { a: picks[0], b: picks[1] ?? null },
        }),
      ),
    enabled: picks.length > 0,
    placeholderData: picks.length ? keepPreviousData : undefined,
    retry: false,
    gcTime: 30_000,
  });
  return {
    found: picks.length ? (asked.data ?? null) : null,
    fault: asked.error instanceof Error ? asked.error.message : "",
  };
}

/** Mass and centre of gravity of parts together. */
export function useWeight(parts: string[]): AboutOut | null {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const asked = useQuery({
    queryKey: ["weigh", id, revision, parts.join()],
    queryFn: () => got(api.POST("/api/designs/{design_id}/weigh", { params: { path: { design_id: id } }, body: { parts } })),
    enabled: parts.length > 0,
    retry: false,
    gcTime: 30_000,
  });
  return asked.data ?? null;
}

// The parts that a bore's axis passes through, of the design at its head.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { Axis, Entry } from "../lib/document";
import { useDesign } from "./design";

export type OnAxis = { part: string; how: "square" | "angle" | "edge" };

/** What lies on an axis, in order along it, and how it is met; empty while a place is not worked out. */
export function usePartsAlong(axis: Axis, at: Partial<Record<Axis, Entry>>): OnAxis[] {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["along", id, axis, at, revision],
    queryFn: () =>
      got(
        api.POST("/api/designs/{design_id}/bores/along", {
          params: { path: { design_id: id } },
          body: { axis, at: at as Record<string, Entry> },
        }),
      ),
    enabled: Boolean(id) && revision > 0,
    retry: false,
    placeholderData: (before, query) => (query?.queryKey[2] === axis ? before : undefined),
  });
  return found.isError ? [] : (found.data?.parts ?? []);
}

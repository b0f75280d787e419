// The holes that are left to a drill, of the design at its head.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { DrillOut } from "../api/types";
import { useDesign } from "./design";

export function useDrilling(): DrillOut[] {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["drilling", id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/drilling", { params: { path: { design_id: id } } })),
    enabled: Boolean(id) && revision > 0,
    retry: false,
  });
  return found.data ?? [];
}

// Every edit of the open design.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import { useDesign } from "./design";

export function useHistory() {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  return useQuery({
    queryKey: ["history", id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/edits", { params: { path: { design_id: id }, query: { after: 0 } } })),
  });
}

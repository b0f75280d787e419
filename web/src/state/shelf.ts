// The workshop's shelf: what is on it, and what is kept there.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got } from "../api/client";
import { afresh } from "./afresh";

const KEY = "workshop";

export function useShelf() {
  return useQuery({ queryKey: [KEY], queryFn: () => got(api.GET("/api/workshop")) });
}

/** Keeps a record of the design under its key; what is there under it is replaced. */
export function useKeepOnShelf(group: "stocks" | "brakes", key: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (record: object) =>
      got(api.PUT("/api/workshop/{group}/{key}", { params: { path: { group, key } }, body: record as Record<string, unknown> })),
    onSuccess: () => afresh(queries, KEY),
  });
}

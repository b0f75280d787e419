// The workshop's shelf: what is on it, and what is kept there.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got } from "../api/client";
import { useActing } from "./acting";
import { afresh } from "./afresh";
import { useDesign } from "./design";

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

/** Says how many there are of a size that a stock is sold in, null where that is not counted; gives what went wrong as a sentence, or nothing. */
export function useCounting(stock: string, size: string) {
  const { act, fault } = useActing(KEY);
  const say = (count: number | null): Promise<string> =>
    act(async () => {
      await got(api.PUT("/api/workshop/on-hand/{stock}/{size}", { params: { path: { stock, size } }, body: { count } }));
      // the open design is laid out on what there is
      await useDesign.getState().askAgain();
    });
  return { say, fault };
}

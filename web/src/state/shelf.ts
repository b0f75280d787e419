// The workshop's shelf: what is on it, and what is kept there.
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got } from "../api/client";
import { cutMarks } from "../lib/shelf";
import { useActing } from "./acting";
import { afresh } from "./afresh";
import { useDesign } from "./design";

const KEY = "workshop";

/** All that is on the shelf; asked for anew where the open design says that other sheets and bars are cut than before. */
export function useShelf() {
  const marks = useDesign((s) => (s.doc ? cutMarks(s.doc) : ""));
  return useQuery({ queryKey: [KEY, marks], queryFn: () => got(api.GET("/api/workshop")), placeholderData: keepPreviousData });
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

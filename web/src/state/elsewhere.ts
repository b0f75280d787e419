// What is cut elsewhere: the outside cutters, and the open design's orders to them.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import { useActing } from "./acting";
import { useDesign } from "./design";

const KEY = "outside orders";
/** While something is on its way (ms). */
const SELDOM = 5000;

export function useOutsideCutters() {
  return useQuery({ queryKey: ["outside cutters"], queryFn: () => got(api.GET("/api/outside-cutters")), staleTime: 600_000 });
}

export function useOutsideOrders() {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  return useQuery({
    queryKey: [KEY, id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/outside-orders", { params: { path: { design_id: id } } })),
    refetchInterval: (q) => (q.state.data?.some((o) => o.state === "ordered" && !o.sent) ? SELDOM : false),
    placeholderData: (before) => before,
  });
}

/** What is done with orders; each gives what went wrong as a sentence, or nothing. */
export function useOrderActs() {
  const { act, busy, fault } = useActing(KEY);
  const at = (id: string) => ({ params: { path: { order_id: id } } });
  return {
    busy,
    fault,
    ask: (cutter: string, parts: string[]) =>
      act(() =>
        got(
          api.POST("/api/designs/{design_id}/outside-orders", {
            params: { path: { design_id: useDesign.getState().id } },
            body: { cutter, parts },
          }),
        ),
      ),
    order: (id: string) => act(() => got(api.POST("/api/outside-orders/{order_id}/acts", { ...at(id), body: { act: "order" } }))),
    drop: (id: string) => act(() => got(api.POST("/api/outside-orders/{order_id}/acts", { ...at(id), body: { act: "drop" } }))),
    receive: (id: string, received: Record<string, number>) =>
      act(() => got(api.POST("/api/outside-orders/{order_id}/received", { ...at(id), body: { received } }))),
  };
}

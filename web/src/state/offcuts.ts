// The workshop's offcuts, and what is done with one of them.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { OffcutOut } from "../api/types";
import { useActing } from "./acting";
import { useDesign } from "./design";

const KEY = "offcuts";

/** All offcuts of the workshop. */
export function useOffcuts() {
  return useQuery({ queryKey: [KEY], queryFn: () => got(api.GET("/api/offcuts")) });
}

type Change = { place?: string; reserved?: string; square?: boolean };

/** Changes to offcuts; each gives what went wrong as a sentence, or nothing. */
export function useOffcutChanges() {
  const { act } = useActing(KEY);
  return {
    change: (label: string, body: Change): Promise<string> =>
      act(() =>
        got(
          api.PATCH("/api/offcuts/{label}", {
            params: { path: { label } },
            body: { place: body.place ?? null, reserved: body.reserved ?? null, square: body.square ?? false },
          }),
        ),
      ),
    away: (label: string): Promise<string> => act(() => got(api.DELETE("/api/offcuts/{label}", { params: { path: { label } } }))),
    /** What is left of the bars of a stock goes on the shelf, once they are cut. */
    shelveBars: (stock: string, made: (offcuts: OffcutOut[]) => void): Promise<string> =>
      act(async () =>
        made(
          await got(
            api.POST("/api/designs/{design_id}/bars/left", {
              params: { path: { design_id: useDesign.getState().id } },
              body: { stock, place: "" },
            }),
          ),
        ),
      ),
    /** What is left of a sheet of the open design goes on the shelf. */
    shelve: (stock: string, number: number, made: (offcuts: OffcutOut[]) => void): Promise<string> =>
      act(async () =>
        made(
          await got(
            api.POST("/api/designs/{design_id}/nest/offcuts", {
              params: { path: { design_id: useDesign.getState().id } },
              body: { stock, number, place: "" },
            }),
          ),
        ),
      ),
  };
}

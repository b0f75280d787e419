// What the core says of sheets that are laid by hand: where a piece finds room, and layouts that were kept earlier.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { RoomOut } from "../api/types";
import { useDesign } from "./design";

type Held = { part: string; number: number; angle: number; mirrored: boolean };

/** Where a piece may lie on each sheet, as it is turned. */
export function roomFor(stock: string, piece: Held): Promise<RoomOut> {
  const { part, number, angle, mirrored } = piece;
  return got(
    api.POST("/api/designs/{design_id}/nest/room", {
      params: { path: { design_id: useDesign.getState().id } },
      body: { stock, part, number, angle, mirrored },
    }),
  );
}

/** A layout that was kept earlier, by its number; nothing for none. */
export function useEarlierLayout(number: number | null) {
  const design = useDesign((s) => s.id);
  return useQuery({
    queryKey: ["layout", design, number ?? 0],
    queryFn: () =>
      got(
        api.GET("/api/designs/{design_id}/nest/layouts/{number}", {
          params: { path: { design_id: design, number: number ?? 0 } },
        }),
      ),
    enabled: number !== null,
  });
}

// A maker's designs, and what is done with one of them as a whole.
import { useQuery } from "@tanstack/react-query";
import { api, fileIn, got } from "../api/client";
import { useActing } from "./acting";

const KEY = "designs";

export function useDesigns() {
  return useQuery({ queryKey: [KEY], queryFn: () => got(api.GET("/api/designs")) });
}

export function useDesignChanges() {
  const { act, fault } = useActing(KEY);
  const at = (id: string) => ({ params: { path: { design_id: id } } });
  return {
    fault,
    copy: (id: string) => act(() => got(api.POST("/api/designs/{design_id}/copy", at(id)))),
    rename: (id: string, name: string) =>
      act(() => got(api.POST("/api/designs/{design_id}/name", { ...at(id), body: { name } }))),
    remove: (id: string) => act(() => got(api.DELETE("/api/designs/{design_id}", at(id)))),
    upload: (file: File) => act(() => got(api.POST("/api/designs/upload", fileIn(file)))),
  };
}

/** A new design from a starter; its id. */
export function beginDesign(name: string, starter: string): Promise<string> {
  return got(api.POST("/api/designs", { body: { name, starter } })).then((made) => made.id);
}

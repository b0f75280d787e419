// The range test of the open design: gone on with while it is wanted, a few seconds' worth at a time; what was found is kept by the server.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, got, said } from "../api/client";
import { pointer } from "../lib/document";
import { useDesign } from "./design";

const KEY = "range test";

/** What was found so far, whether it goes on, and what starts and stops it; it goes on with the design as it becomes. */
export function useRangeTest() {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const client = useQueryClient();
  const [on, setOn] = useState(false);
  const [fault, setFault] = useState("");
  const told = useQuery({
    queryKey: [KEY, id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/range-test", { params: { path: { design_id: id } } })),
    placeholderData: (before) => before,
  });
  useEffect(() => {
    if (!on) return;
    let stopped = false;
    async function goOn() {
      while (!stopped) {
        const found = await got(api.POST("/api/designs/{design_id}/range-test", { params: { path: { design_id: id } } }));
        if (stopped) return;
        client.setQueryData([KEY, id, revision], found);
        if (found.done >= found.total) return setOn(false);
      }
    }
    goOn().catch((error) => {
      if (stopped) return;
      setFault(said(error));
      setOn(false);
    });
    return () => {
      stopped = true;
    };
  }, [on, id, revision, client]);
  return {
    found: told.data,
    /** what is shown is of the design as it was */
    late: told.isPlaceholderData,
    on,
    fault,
    start() {
      setFault("");
      setOn(true);
    },
    stop: () => setOn(false),
  };
}

type Entry = { text: string; unit: string };

/** The least and the greatest value of a size, in one edit. */
export function takeRange(key: string, name: string, [low, high]: Entry[]) {
  return useDesign.getState().commit(`Range of ${name}`, [
    { op: "add", path: pointer("sizes", key, "low"), value: low },
    { op: "add", path: pointer("sizes", key, "high"), value: high },
  ]);
}

/** A size set to where it breaks, to be looked at; an undo puts it back. */
export function setSize(key: string, name: string, entry: Entry) {
  return useDesign
    .getState()
    .commit(`${name} to where it breaks`, [{ op: "replace", path: pointer("sizes", key, "entry"), value: entry }]);
}

// The papers of the open design: which sheets there are, the pages of one, and what is being done on them.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { create } from "zustand";
import { api, got, said } from "../api/client";
import type { IssuedOut, PaperOut, PaperSetOut } from "../api/types";
import type { Near } from "../lib/paper";
import { useDesign } from "./design";

export function usePaperSet(): { set: PaperSetOut | null; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["papers", id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/papers", { params: { path: { design_id: id } } })),
    enabled: Boolean(id) && revision > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { set: found.data ?? null, fault: found.error ? said(found.error) : "" };
}

const page = (id: string, revision: number, subject: string) => ({
  queryKey: ["paper", id, revision, subject],
  queryFn: async () =>
    (await got(
      api.GET("/api/designs/{design_id}/papers/{subject}", { params: { path: { design_id: id, subject } } }),
    )) as PaperOut[],
  retry: false as const,
  gcTime: 120_000,
});

/** The pages of a sheet; the last ones stand while the next are drawn. */
export function usePaper(subject: string): { pages: PaperOut[]; busy: boolean; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({ ...page(id, revision, subject), enabled: Boolean(subject), placeholderData: keepPreviousData });
  const stale = found.data !== undefined && found.data[0]?.subject !== subject;
  return {
    pages: stale || found.error ? [] : (found.data ?? []),
    busy: found.isFetching,
    fault: found.error ? said(found.error) : "",
  };
}

/** Something that is wrong with a sheet: it does not fit, cannot be drawn, or what was put on it has lost its place. */
export type SheetFault = { subject: string; text: string };

/** Draws all sheets, one after the other, so that the set can be taken at once; how many are done, and what is wrong with which. */
export function useAllPapers(subjects: string[]): {
  done: number;
  running: boolean;
  looked: boolean;
  faults: SheetFault[];
  run: () => Promise<boolean>;
} {
  const client = useQueryClient();
  const [done, setDone] = useState(0);
  const [running, setRunning] = useState(false);
  const [faults, setFaults] = useState<SheetFault[]>([]);
  const [looked, setLooked] = useState(false);

  async function run(): Promise<boolean> {
    const { id, revision } = useDesign.getState();
    setRunning(true);
    setFaults([]);
    let well = true;
    for (const [n, subject] of subjects.entries()) {
      setDone(n);
      try {
        const pages = await client.fetchQuery({ ...page(id, revision, subject), staleTime: Number.POSITIVE_INFINITY });
        const wrong = pages.flatMap((p) => p.faults.map((text) => ({ subject, text })));
        if (wrong.length) setFaults((f) => [...f, ...wrong]);
      } catch (error) {
        well = false;
        setFaults((f) => [...f, { subject, text: said(error) }]);
      }
    }
    setDone(subjects.length);
    setRunning(false);
    setLooked(true);
    return well;
  }
  return { done, running, looked, faults, run };
}

type PapersState = {
  /** Whether Shop shows papers, not lists. */
  open: boolean;
  subject: string;
  page: number;
  /** the name of the dimension, balloon, table or note that is chosen */
  chosen: string;
  tool: "" | "dimension" | "note";
  /** the first place of a dimension that is being put in */
  first: Near | null;
  show: (open: boolean) => void;
  turnTo: (subject: string, page?: number) => void;
  choose: (name: string) => void;
  take: (tool: PapersState["tool"]) => void;
  begin: (first: Near | null) => void;
};

export const usePapers = create<PapersState>((set) => ({
  open: false,
  subject: "whole",
  page: 0,
  chosen: "",
  tool: "",
  first: null,
  show: (open) => set({ open }),
  turnTo: (subject, page = 0) => set({ subject, page, chosen: "", tool: "", first: null }),
  choose: (chosen) => set({ chosen }),
  take: (tool) => set({ tool, first: null, chosen: "" }),
  begin: (first) => set({ first }),
}));

/** The sets that were issued, the newest first, and how to issue another; the fault as a sentence. */
export function useIssued(): { issued: IssuedOut[]; issue: (revision: string) => Promise<string> } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const client = useQueryClient();
  const key = ["issued", id, revision];
  const found = useQuery({
    queryKey: key,
    queryFn: () => got(api.GET("/api/designs/{design_id}/papers/issued", { params: { path: { design_id: id } } })),
    enabled: Boolean(id),
    retry: false,
  });
  async function issue(as: string): Promise<string> {
    try {
      const path = { design_id: id };
      const now = await got(api.POST("/api/designs/{design_id}/papers/issued", { params: { path }, body: { revision: as } }));
      client.setQueryData(key, now);
      return "";
    } catch (error) {
      return said(error);
    }
  }
  return { issued: found.data ?? [], issue };
}

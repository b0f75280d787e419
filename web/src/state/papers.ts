// The papers of the open design: which sheets there are, the pages of one, and what is being done on them.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { create } from "zustand";
import { api, got, said } from "../api/client";
import type { IssuedOut, PaperOut, PaperSetOut, PaperTemplateOut, Patch } from "../api/types";
import { pointer } from "../lib/document";
import type { Near } from "../lib/paper";
import { useDesign } from "./design";
import { keepPicture } from "./files";

/** `now` where the set is that of the design as it stands, not the one before. */
export function usePaperSet(): { set: PaperSetOut | null; now: boolean; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["papers", id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/papers", { params: { path: { design_id: id } } })),
    enabled: Boolean(id) && revision > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { set: found.data ?? null, now: !found.isPlaceholderData, fault: found.error ? said(found.error) : "" };
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
  tool: "" | "dimension" | "angle" | "note" | "detail";
  /** the places of a dimension that is being put in, as they were pressed */
  picked: Near[];
  show: (open: boolean) => void;
  turnTo: (subject: string, page?: number) => void;
  choose: (name: string) => void;
  take: (tool: PapersState["tool"]) => void;
  pick: (place: Near) => void;
};

export const usePapers = create<PapersState>((set) => ({
  open: false,
  subject: "whole",
  page: 0,
  chosen: "",
  tool: "",
  picked: [],
  show: (open) => set({ open }),
  turnTo: (subject, page = 0) => set({ subject, page, chosen: "", tool: "", picked: [] }),
  choose: (chosen) => set({ chosen }),
  take: (tool) => set({ tool, picked: [], chosen: "" }),
  pick: (place) => set((s) => ({ picked: [...s.picked, place] })),
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

/** The workshop's templates of papers: to let the design's papers look so, to keep how they look, to forget one; the fault as a sentence. */
export function useTemplates(): {
  templates: PaperTemplateOut[];
  take: (key: string) => Promise<string>;
  keep: (name: string, always: boolean) => Promise<string>;
  forget: (key: string) => Promise<string>;
} {
  const id = useDesign((s) => s.id);
  const client = useQueryClient();
  const key = ["paper templates"];
  const found = useQuery({
    queryKey: key,
    queryFn: () => got(api.GET("/api/designs/{design_id}/papers/templates", { params: { path: { design_id: id } } })),
    enabled: Boolean(id),
    retry: false,
  });
  const path = { design_id: id };
  async function tried(act: () => Promise<unknown>): Promise<string> {
    try {
      await act();
      return "";
    } catch (error) {
      return said(error);
    }
  }
  return {
    templates: found.data ?? [],
    take: (template) =>
      tried(async () => {
        const params = { path: { ...path, key: template } };
        const { label, patch } = await got(api.POST("/api/designs/{design_id}/papers/templates/{key}", { params }));
        if (patch.length) await useDesign.getState().commit(label, patch as Patch);
      }),
    keep: (name, always) =>
      tried(async () => {
        const body = { name, always };
        client.setQueryData(key, await got(api.POST("/api/designs/{design_id}/papers/templates", { params: { path }, body })));
      }),
    forget: (template) =>
      tried(async () => {
        const params = { path: { ...path, key: template } };
        client.setQueryData(key, await got(api.DELETE("/api/designs/{design_id}/papers/templates/{key}", { params })));
      }),
  };
}

/** A picture put on the cover sheet, which is in the set from then on; the fault as a sentence. */
export async function putOnCover(file: File): Promise<string> {
  try {
    const { picture } = await keepPicture(file, 1);
    await useDesign.getState().commit("A picture on the cover", [
      { op: "add", path: pointer("papers", "picture"), value: picture },
      { op: "add", path: pointer("papers", "cover"), value: true },
    ]);
  } catch (error) {
    return said(error);
  }
  usePapers.getState().turnTo("cover");
  return "";
}

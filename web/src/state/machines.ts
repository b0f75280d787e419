// The machines of the workshop: what lies on their beds, what waits for them, and what is done with it.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got, said } from "../api/client";
import type { JobSheetOut, MachineOut, ProgramOut } from "../api/types";
import { useActing } from "./acting";
import { useDesign } from "./design";

const KEY = "machines";
/** While something is cut, and while nothing is (ms). */
const OFTEN = 400;
const SELDOM = 2000;
export type JobAct = "start" | "hold" | "resume" | "stop" | "go_on" | "give_up";
export type PieceMark = "" | "off" | "spoiled";

const at = (id: string) => ({ params: { path: { job_id: id } } });

/** As which revision of its design a sheet was sent, to be set behind; nothing of designs cut together, which have several. */
export const ofRevision = (job: { revision: number }) => (job.revision ? `, revision ${job.revision}` : "");

/** Every machine as it stands, asked for again and again. */
export function useMachines() {
  return useQuery({
    queryKey: [KEY],
    queryFn: () => got(api.GET("/api/machines")),
    refetchInterval: (q) =>
      q.state.data?.some((m) => m.on_bed && ["starting", "running"].includes(m.on_bed.state)) ? OFTEN : SELDOM,
  });
}

/** What plays a side of a sheet, as it was sent. */
export function useJobProgram(id: string, side: number): ProgramOut | null {
  const found = useQuery({
    queryKey: ["job program", id, side],
    queryFn: () => got(api.GET("/api/jobs/{job_id}/program", { params: { path: { job_id: id }, query: { side } } })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return found.data ?? null;
}

/** How a sheet lies, with its pieces; as it was sent. */
export function useJobSheet(id: string): JobSheetOut | null {
  const found = useQuery({
    queryKey: ["job sheet", id],
    queryFn: () => got(api.GET("/api/jobs/{job_id}", at(id))),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return found.data ?? null;
}

/** What is done at the machines; each gives what went wrong as a sentence, or nothing. */
export function useMachineActs() {
  const client = useQueryClient();
  const { act, busy, fault } = useActing(KEY);
  const [told, setTold] = useState<string[]>([]);
  // the answer is how they stand then: it need not be asked for again to be shown
  const floor = (call: () => Promise<MachineOut[]>) =>
    act(async () => {
      setTold([]);
      client.setQueryData([KEY], await call());
    });
  return {
    busy,
    fault,
    told,
    act: (id: string, what: JobAct) => floor(() => got(api.POST("/api/jobs/{job_id}/acts", { ...at(id), body: { act: what } }))),
    mark: (id: string, marks: { key: string; number: number; mark: PieceMark }[]) =>
      floor(() => got(api.POST("/api/jobs/{job_id}/pieces", { ...at(id), body: { marks } }))),
    finish: (id: string, place: string) =>
      act(async () => setTold(await got(api.POST("/api/jobs/{job_id}/finish", { ...at(id), body: { place } })))),
    before: (id: string, other: string) =>
      floor(() => got(api.PATCH("/api/jobs/{job_id}", { ...at(id), body: { before: other } }))),
    due: (id: string, due: string) => floor(() => got(api.PATCH("/api/jobs/{job_id}", { ...at(id), body: { due } }))),
    remove: (id: string) => floor(() => got(api.DELETE("/api/jobs/{job_id}", at(id)))),
    home: (machine: string) => floor(() => got(api.POST("/api/machines/{machine}/home", { params: { path: { machine } } }))),
    byDue: (machine: string) => floor(() => got(api.POST("/api/machines/{machine}/by-due", { params: { path: { machine } } }))),
  };
}

/** Sends sheets of the open design (none for all of a stock) to a machine; what went wrong as a sentence, '' where they wait there now. */
export async function sendSheets(stock: string, numbers: number[], machine: string): Promise<string> {
  const { id, askAgain, askNest } = useDesign.getState();
  try {
    await got(
      api.POST("/api/designs/{design_id}/jobs", {
        params: { path: { design_id: id } },
        body: { stock, numbers, machine, due: null },
      }),
    );
  } catch (error) {
    return said(error);
  }
  // its pieces are held where they lie: that is an edit
  await askAgain();
  await askNest(true);
  return "";
}

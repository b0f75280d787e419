// Lengths cut from bars that are in no design.
import { useMutation } from "@tanstack/react-query";
import { api, got } from "../api/client";

export type Piece = { name: string; length: string; quantity: number };
export type Bar = { length: string; count: number; price: number };
export type Job = { pieces: Piece[]; bars: Bar[]; kerf: string; trim: string };

/** The cheapest way to cut a job that was found, on demand. */
export function useBarPlan() {
  return useMutation({
    mutationFn: (job: Job) =>
      got(api.POST("/api/bars", { body: { ...job, pieces: job.pieces.filter((p) => p.length.trim()), unit: "mm" } })),
  });
}

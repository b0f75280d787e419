// Doing something on the server that no open design keeps: whether it is under way, what went wrong, and what is asked for anew after it.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { said } from "../api/client";
import { afresh } from "./afresh";

export type Acting = {
  /** does it; the fault as a sentence, '' where all went well */
  act: (call: () => Promise<unknown>) => Promise<string>;
  busy: boolean;
  fault: string;
};

/** What was kept under the keys is asked for anew after each act, also after one that failed. */
export function useActing(...keys: string[]): Acting {
  const client = useQueryClient();
  const doing = useMutation({
    mutationFn: (call: () => Promise<unknown>) => call(),
    onSettled: () => afresh(client, ...keys),
  });
  return {
    act: (call) => doing.mutateAsync(call).then(() => "", said),
    busy: doing.isPending,
    fault: doing.error ? said(doing.error) : "",
  };
}

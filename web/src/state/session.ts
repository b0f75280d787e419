// Who is signed in.
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ApiError, api, got, said } from "../api/client";

const KEY = ["session"];

export function useSession() {
  return useQuery({
    queryKey: KEY,
    queryFn: () => got(api.GET("/api/session")),
    staleTime: 60_000,
    retry: 30,
    retryDelay: 2000,
  });
}

/** Signs in by name and password, or without them to the demo workshop. */
export function useSignIn() {
  const client = useQueryClient();
  const entering = useMutation({
    mutationFn: (who: { username: string; password: string } | null) =>
      got(who ? api.POST("/api/session", { body: who }) : api.POST("/api/session/demo")),
    onSuccess: (session) => client.setQueryData(KEY, session),
  });
  return { enter: entering.mutate, busy: entering.isPending, fault: entering.error ? said(entering.error) : "" };
}

/** Gives whoever is signed in another password. */
export function useNewPassword() {
  const changing = useMutation({
    mutationFn: (words: { old: string; new: string }) => got(api.POST("/api/session/password", { body: words })),
  });
  const fault = changing.error instanceof ApiError ? changing.error.fault : undefined;
  return { change: changing.mutate, busy: changing.isPending, done: changing.isSuccess, fault };
}

export function useSignOut(): () => void {
  const client = useQueryClient();
  const leaving = useMutation({
    mutationFn: () => got(api.DELETE("/api/session")),
    onSuccess: (session) => {
      client.clear();
      client.setQueryData(KEY, session);
    },
  });
  return () => leaving.mutate();
}

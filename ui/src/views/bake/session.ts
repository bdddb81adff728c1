import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type BakingSession, body, type Schemas } from "../../api/client";

const KEY = ["session", "current"];

export const useCurrentSession = (everyMs = 5000) =>
  useQuery({
    queryKey: KEY,
    queryFn: async () => {
      const session = await body(api.GET("/api/sessions/current"));
      if (session) remember(session.now);
      return session;
    },
    refetchInterval: everyMs,
  });

let serverAhead = 0;

/** How far the server's clock is ahead of this device's, by the last answer. */
const remember = (serverNow: number): void => {
  serverAhead = serverNow - Date.now();
};

/** The time by the server's clock, ticking; countdowns are worked out from it, never counted. */
export function useNow(session: BakingSession | null | undefined): number {
  const [, tick] = useState(0);
  const running = session?.state === "running";
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => tick((n) => n + 1), 250);
    return () => clearInterval(timer);
  }, [running]);
  return Date.now() + serverAhead;
}

/** Say what happened; the answer is the session with its rest planned again. */
export function useDeeds(session: BakingSession) {
  const queries = useQueryClient();
  const params = { params: { path: { session_id: session.id } } };
  // A look at the session that was asked before the deed must not be shown after it.
  const onMutate = () => queries.cancelQueries({ queryKey: KEY });
  const onSuccess = async (after: BakingSession) => {
    await onMutate();
    remember(after.now);
    queries.setQueryData(KEY, after);
  };
  const deed = useMutation({
    mutationFn: (what: Schemas["DeedBody"]) =>
      body(api.POST("/api/sessions/{session_id}/events", { ...params, body: what })),
    onMutate,
    onSuccess,
  });
  const undo = useMutation({
    mutationFn: () => body(api.POST("/api/sessions/{session_id}/undo", params)),
    onMutate,
    onSuccess,
  });
  return { deed, undo };
}

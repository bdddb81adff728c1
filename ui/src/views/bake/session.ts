import { type QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type BakingSession, body, type Schemas } from "../../api/client";

const KEY = ["session", "current"];

/** Whether an answer was asked for before what is shown. */
const isOlder = (session: BakingSession, shown: BakingSession): boolean =>
  session.id === shown.id && session.changed_at < shown.changed_at;

export function useCurrentSession(everyMs = 5000) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: KEY,
    queryFn: async () => {
      const session = await body(api.GET("/api/sessions/current"));
      if (session) remember(session.now);
      const shown = queries.getQueryData<BakingSession | null>(KEY);
      return session && shown && isOlder(session, shown) ? shown : session;
    },
    refetchInterval: everyMs,
  });
}

/** Show a session as the stream tells it. */
export function showSession(queries: QueryClient, session: BakingSession): void {
  const shown = queries.getQueryData<BakingSession | null>(KEY);
  const other = session.state !== "running" && shown?.id !== session.id;
  if (other || (shown && isOlder(session, shown))) return;
  remember(session.now);
  void queries.cancelQueries({ queryKey: KEY });
  queries.setQueryData(KEY, session);
}

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

/** Say what happened; the answer is the session with its rest planned again. What happened is kept
 * and told before that: `busy` is only until then. */
export function useEvents(session: BakingSession) {
  const queries = useQueryClient();
  const [mark, setMark] = useState(-1);
  const params = { params: { path: { session_id: session.id } } };
  // A look at the session that was asked before the event must not be shown after it.
  const onMutate = () => {
    setMark(session.happened);
    return queries.cancelQueries({ queryKey: KEY });
  };
  const onSuccess = async (after: BakingSession) => {
    await queries.cancelQueries({ queryKey: KEY });
    remember(after.now);
    const shown = queries.getQueryData<BakingSession | null>(KEY);
    if (!shown || !isOlder(after, shown)) queries.setQueryData(KEY, after);
  };
  const telling = useMutation({
    mutationFn: (what: Schemas["BakeEvent"]) =>
      body(api.POST("/api/sessions/{session_id}/events", { ...params, body: what })),
    onMutate,
    onSuccess,
  });
  const undo = useMutation({
    mutationFn: () => body(api.POST("/api/sessions/{session_id}/undo", params)),
    onMutate,
    onSuccess,
  });
  const giveUp = useMutation({
    mutationFn: () => body(api.POST("/api/sessions/{session_id}/give-up", params)),
    onMutate,
    onSuccess,
  });
  const busy = (telling.isPending || undo.isPending) && session.happened === mark;
  return { telling, undo, giveUp, busy };
}

/** One tray of a dough that is ready, at once and without a plan. */
export function useBakeNow() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (doughId: number) =>
      body(api.POST("/api/sessions", { body: { dough_id: doughId } })),
    onSuccess: (session) => queries.setQueryData(KEY, session),
  });
}

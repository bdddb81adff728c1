import { type QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, type BakingSession, body, type Schemas } from "../../api/client";
import { WHILE_AWAY } from "../../api/untilKept";

export type Wish = Schemas["Wish"];

const KEY = ["plan"];
const LOOK_EVERY_MS = 600;

/** The plan that has not been started; asked for again while better ones are looked for. */
export const usePlan = () =>
  useQuery({
    queryKey: KEY,
    queryFn: () => body(api.GET("/api/plan")),
    refetchInterval: (query) => (query.state.data?.searching ? LOOK_EVERY_MS : false),
  });

/** Shows this plan; a look at the one before that is still on its way is dropped first. */
async function show(queries: QueryClient, plan: BakingSession | null) {
  await queries.cancelQueries({ queryKey: KEY });
  queries.setQueryData(KEY, plan);
}

export function useMakePlan() {
  const queries = useQueryClient();
  return useMutation({
    // One after the other: what was asked last is what is planned.
    scope: { id: "plan" },
    ...WHILE_AWAY,
    mutationFn: (wish: Wish) => body(api.PUT("/api/plan", { body: wish })),
    onSuccess: async (plan) => {
      await show(queries, plan);
      queries.removeQueries({ queryKey: ["ideas"] });
      queries.invalidateQueries({ queryKey: ["kitchen"] });
    },
  });
}

/** Look no further; also when the page is left. */
export function useStopSearch() {
  const queries = useQueryClient();
  const stop = useMutation({
    mutationFn: () => body(api.POST("/api/plan/stop")),
    onSuccess: (plan) => show(queries, plan),
  });
  useEffect(
    () => () => {
      fetch("/api/plan/stop", { method: "POST", keepalive: true }).catch(() => undefined);
    },
    [],
  );
  return stop;
}

export function useDropPlan() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.DELETE("/api/plan")),
    onSuccess: () => show(queries, null),
  });
}

export function useStart() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ sessionId, asPlanned }: { sessionId: number; asPlanned: boolean }) =>
      body(
        api.POST("/api/sessions/{session_id}/start", {
          params: { path: { session_id: sessionId } },
          body: { as_planned: asPlanned },
        }),
      ),
    onSuccess: (session) => {
      queries.setQueryData(["session", "current"], session);
      queries.invalidateQueries({ queryKey: KEY });
    },
  });
}

/** What may be tried to be ready sooner. */
export const useIdeas = (plan: BakingSession) =>
  useQuery({
    queryKey: ["ideas", plan.id, plan.finish_at, plan.start_at],
    queryFn: () => body(api.GET("/api/plan/ideas")),
    enabled: !plan.searching,
  });

/** One idea, really planned again. */
export const useTried = (plan: BakingSession, number: number, enabled: boolean) =>
  useQuery({
    queryKey: ["ideas", plan.id, plan.finish_at, plan.start_at, number],
    queryFn: () => body(api.POST("/api/plan/ideas/{number}", { params: { path: { number } } })),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
  });

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { WHILE_AWAY } from "../../api/untilKept";
import { KEYS, showPlan, showSession, threwAway } from "../../logic/queries";
import { forgetSame } from "../../logic/remembered";
import type { Wish } from "../../logic/wish";

/** Under this name is remembered what was asked for and is not planned yet. */
export const WISH = "wish";

export function useMakePlan() {
  const queries = useQueryClient();
  return useMutation({
    // One after the other: what was asked last is what is planned.
    scope: { id: "plan" },
    ...WHILE_AWAY,
    mutationFn: (wish: Wish) => body(api.PUT("/api/plan", { body: wish })),
    onSuccess: async (plan, wish) => {
      forgetSame(WISH, wish);
      await showPlan(queries, plan);
      queries.removeQueries({ queryKey: KEYS.ideas });
      queries.invalidateQueries({ queryKey: KEYS.kitchen });
    },
  });
}

/** Look no further. It is looked on for seconds when the page is left: what is found is there on the
 * way back. */
export function useStopSearch() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.POST("/api/plan/stop")),
    onSuccess: (plan) => showPlan(queries, plan),
  });
}

export function useDropPlan() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.DELETE("/api/plan")),
    onSuccess: (thrown) => {
      threwAway(queries, thrown);
      return showPlan(queries, null);
    },
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
      showSession(queries, session);
      queries.invalidateQueries({ queryKey: KEYS.plan });
    },
  });
}

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";

export const usePlan = (doughId: number) =>
  useQuery({
    queryKey: ["plan", doughId],
    queryFn: () =>
      body(api.GET("/api/doughs/{dough_id}/plan", { params: { path: { dough_id: doughId } } })),
  });

export function useMakePlan(doughId: number) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (wish: Schemas["WishBody"]) =>
      body(
        api.PUT("/api/doughs/{dough_id}/plan", {
          params: { path: { dough_id: doughId } },
          body: wish,
        }),
      ),
    onSuccess: (plan) => {
      queries.setQueryData(["plan", doughId], plan);
      queries.invalidateQueries({ queryKey: ["kitchen"] });
    },
  });
}

export function useStart() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (sessionId: number) =>
      body(
        api.POST("/api/sessions/{session_id}/start", {
          params: { path: { session_id: sessionId } },
        }),
      ),
    onSuccess: (session) => {
      queries.setQueryData(["session", "current"], session);
      queries.invalidateQueries({ queryKey: ["plan"] });
    },
  });
}

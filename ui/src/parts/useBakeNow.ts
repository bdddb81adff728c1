import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body } from "../api/client";
import { showSession } from "../logic/queries";

/** One tray of a dough that is ready, at once and without a plan. */
export function useBakeNow() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (doughId: number) =>
      body(api.POST("/api/sessions", { body: { dough_id: doughId } })),
    onSuccess: (session) => showSession(queries, session),
  });
}

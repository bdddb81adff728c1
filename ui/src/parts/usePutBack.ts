import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body } from "../api/client";
import { cameBack, KEYS } from "../logic/queries";

/** Put something back that was thrown away. */
export function usePutBack() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (thrown_id: number) =>
      body(api.POST("/api/bin/{thrown_id}/put-back", { params: { path: { thrown_id } } })),
    onSuccess: () => cameBack(queries),
  });
}

/** Throw something away for good. */
export function useLetGo() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (thrown_id: number) =>
      body(api.DELETE("/api/bin/{thrown_id}", { params: { path: { thrown_id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.bin }),
  });
}

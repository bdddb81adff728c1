import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { askAnew, KEYS } from "../../logic/queries";

export function useMakeCopy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.POST("/api/copies")),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.copies }),
  });
}

/** Put a copy in the place of all that there is. */
export function usePutBack() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (name: string) =>
      body(api.POST("/api/copies/{name}/restore", { params: { path: { name } } })),
    onSuccess: () => askAnew(queries),
  });
}

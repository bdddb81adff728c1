import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { KEYS } from "./keys";

/** The copies that lie beside the data file, newest first. */
export const copiesQuery = queryOptions({
  queryKey: KEYS.copies,
  queryFn: () => body(api.GET("/api/copies")),
});

export function useMakeCopy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.POST("/api/copies")),
    onSuccess: () => queries.invalidateQueries({ queryKey: KEYS.copies }),
  });
}

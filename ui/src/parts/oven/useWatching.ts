import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";
import { RESTS_ON_WATCH } from "../../logic/queries";

/** Begin a watch, end it, or keep what it tells. */
export function useWatching() {
  const queries = useQueryClient();
  const onSuccess = () =>
    Promise.all(RESTS_ON_WATCH.map((queryKey) => queries.invalidateQueries({ queryKey })));
  const begin = useMutation({
    mutationFn: (what: Schemas["WatchBody"]) => body(api.POST("/api/oven/watch", { body: what })),
    onSuccess,
  });
  const end = useMutation({ mutationFn: () => body(api.DELETE("/api/oven/watch")), onSuccess });
  const keep = useMutation({
    mutationFn: () => body(api.POST("/api/oven/watch/keep")),
    onSuccess,
  });
  return { begin, end, keep };
}

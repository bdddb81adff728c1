import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body, type Dough } from "../../api/client";
import { askAgain } from "../../logic/askAgain";
import { doughQuery, KEYS, restsOnDough } from "../../logic/queries";

/** Scale the dough for a wish, as a version of its own that says for what. */
export function useScaleDough(dough: Dough) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ factor, said }: { factor: number; said: string }) => {
      const total_g = dough.weighed.total_g * factor;
      const { card } = await body(
        api.POST("/api/scale", { body: { card: dough.card, total_g, rounded: false, have: [] } }),
      );
      return body(
        api.PUT("/api/doughs/{dough_id}", {
          params: { path: { dough_id: dough.id } },
          body: { ...card, revision: dough.revision, reason: `Scaled for ${said}` },
        }),
      );
    },
    onSuccess: (after) => {
      queries.setQueryData(doughQuery(dough.id).queryKey, (before) => ({
        ...after,
        // What is being set on this screen is kept by itself.
        tray: before?.tray ?? after.tray,
      }));
      return askAgain(queries, ...restsOnDough(dough.id), KEYS.doughs);
    },
  });
}

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body, type Dough, type Schemas } from "../api/client";
import { doughQuery, KEYS } from "../logic/queries";

interface Marked {
  id: number;
  marks: Schemas["Marks"];
}

/** Keep whether a dough is a favourite, and its labels; shown on every list at once. */
export function useMarks() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ id, marks }: Marked) =>
      body(
        api.PUT("/api/doughs/{dough_id}/marks", {
          params: { path: { dough_id: id } },
          body: marks,
        }),
      ),
    onSuccess: ({ id, marks }) => {
      // The card may be changed just now: only its marks are new.
      queries.setQueryData<Dough>(doughQuery(id).queryKey, (known) => known && { ...known, marks });
      return queries.invalidateQueries({ queryKey: KEYS.doughs });
    },
  });
}

import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { KEYS } from "./keys";

/** The copies that lie beside the data file, newest first. */
export const copiesQuery = queryOptions({
  queryKey: KEYS.copies,
  queryFn: () => body(api.GET("/api/copies")),
});

/** Another file is in the place of the one that was: nothing that is known holds. What is shown is
 * asked for again, the rest when it is wanted. */
export function askAnew(queries: QueryClient): Promise<void> {
  queries.removeQueries({ type: "inactive" });
  return queries.invalidateQueries();
}

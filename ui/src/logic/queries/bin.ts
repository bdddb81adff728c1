import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";
import { askAnew } from "./copies";
import { toldQuery } from "./devices";
import { KEYS } from "./keys";

export type Thrown = Schemas["Thrown"];

/** What was thrown away in the last month, the latest first. */
export const binQuery = queryOptions({
  queryKey: KEYS.bin,
  queryFn: () => body(api.GET("/api/bin")),
});

/** What was thrown away just now: it can be taken back where it was pressed. */
export const justThrownQuery = toldQuery<Thrown>(KEYS.justThrown);

/** Something went into the bin. */
export function threwAway(queries: QueryClient, thrown: Thrown | null | undefined): void {
  queries.invalidateQueries({ queryKey: KEYS.bin });
  queries.setQueryData(justThrownQuery.queryKey, thrown ?? null);
}

/** Something came back out of the bin: what rests on it is asked for again. */
export function cameBack(queries: QueryClient): Promise<void> {
  queries.setQueryData(justThrownQuery.queryKey, null);
  return askAnew(queries);
}

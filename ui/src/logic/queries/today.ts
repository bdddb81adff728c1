import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { KEYS } from "./keys";

/** How many doughs Today shows at first. */
export const FIRST_DRAWN = 8;

const A_MINUTE_MS = 60_000;

/** What waits to be written down. */
export const todayQuery = queryOptions({
  queryKey: KEYS.today,
  queryFn: () => body(api.GET("/api/today")),
  refetchInterval: A_MINUTE_MS,
});

/** The doughs as they last came out. */
export const drawerQuery = (search: string, most: number) =>
  queryOptions({
    queryKey: [...KEYS.drawn, search, most],
    queryFn: ({ signal }) =>
      body(api.GET("/api/drawer", { params: { query: { search, most } }, signal })),
    placeholderData: keepPreviousData,
  });

/** Whatever has these letters in its name or note; nothing is asked for none. */
export const findQuery = (text: string) =>
  queryOptions({
    queryKey: [...KEYS.found, text],
    queryFn: ({ signal }) => body(api.GET("/api/find", { params: { query: { text } }, signal })),
    enabled: text.trim() !== "",
    placeholderData: keepPreviousData,
  });

/** The doughs to begin from, as they are foreseen in this kitchen. */
export const basesQuery = queryOptions({
  queryKey: KEYS.bases,
  queryFn: () => body(api.GET("/api/base-doughs")),
});

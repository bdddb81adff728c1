import { queryOptions } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { KEYS } from "./keys";

const A_MINUTE_MS = 60_000;

export const coldQuery = queryOptions({
  queryKey: KEYS.cold,
  queryFn: () => body(api.GET("/api/cold")),
  refetchInterval: A_MINUTE_MS,
});

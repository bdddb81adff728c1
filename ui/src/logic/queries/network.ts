import { queryOptions } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { KEYS } from "./keys";
import { FOR_GOOD } from "./staying";

const LOOK_EVERY_MS = 30_000;

/** Whether the home network may ask, the code that is good, and who is let in. */
export const networkQuery = queryOptions({
  queryKey: KEYS.network,
  queryFn: () => body(api.GET("/api/network")),
  // When each was here last changes without a word.
  refetchInterval: LOOK_EVERY_MS,
});

/** Which device this is; none where it is the machine itself. */
export const meQuery = queryOptions({
  queryKey: KEYS.me,
  queryFn: () => body(api.GET("/api/network/me")),
  // It is told when that changes.
  staleTime: FOR_GOOD,
});

/** The figures of this kitchen's certificate; empty where it has one of its own. A page of the door. */
export const certificateQuery = queryOptions({
  queryKey: KEYS.certificate,
  queryFn: async () => (await fetch("/let-in/fingerprint")).text(),
  staleTime: FOR_GOOD,
});

import { queryOptions } from "@tanstack/react-query";
import { api, body } from "../../api/client";
import { setClock } from "../clock";
import { KEYS } from "./keys";
import { FOR_GOOD } from "./staying";

export const kitchenQuery = queryOptions({
  queryKey: KEYS.kitchen,
  queryFn: () => body(api.GET("/api/kitchen")),
});

/** What is known of the kitchen and of its hands, with the pace that is set for them. */
export const knownQuery = (pace?: number, learns?: boolean) =>
  queryOptions({
    queryKey: [...KEYS.known, pace, learns],
    queryFn: () => body(api.GET("/api/kitchen/known")),
  });

export const aboutQuery = queryOptions({
  queryKey: KEYS.about,
  queryFn: async () => {
    const about = await body(api.GET("/api/about"));
    setClock(about.now);
    return about;
  },
  staleTime: FOR_GOOD,
});

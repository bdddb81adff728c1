import { type QueryKey, queryOptions } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";
import { KEYS } from "./keys";
import { FOR_GOOD } from "./staying";

const LOOK_EVERY_MS = 5000;

export const devicesQuery = queryOptions({
  queryKey: KEYS.devices,
  queryFn: () => body(api.GET("/api/devices")),
});

/** A watched oven beside what is wanted of it, in °C. */
export const watchQuery = (wantedC: number | null, enabled: boolean) =>
  queryOptions({
    queryKey: [...KEYS.watch, wantedC],
    queryFn: () =>
      body(
        api.GET("/api/oven/watch", {
          params: { query: wantedC === null ? {} : { wanted_c: wantedC } },
        }),
      ),
    enabled,
    refetchInterval: LOOK_EVERY_MS,
  });

export const recordsQuery = queryOptions({
  queryKey: KEYS.records,
  queryFn: () => body(api.GET("/api/oven/records")),
});

/** What the stream tells is never asked for; null until it has been told. */
export const toldQuery = <T>(queryKey: QueryKey) =>
  queryOptions<T | null>({
    queryKey,
    queryFn: () => null,
    enabled: false,
    staleTime: FOR_GOOD,
    gcTime: FOR_GOOD,
  });

/** Whether the stream is open, cut, or shut because nobody looks. */
export type Wire = "on" | "lost" | "shut";
export const wireQuery = toldQuery<Wire>(KEYS.wire);

/** By how much the clock of this machine has jumped. */
export const clockQuery = toldQuery<{ by_ms: number } | null>(KEYS.clockJump);

/** What each device shows, as it is told. */
export const TOLD = {
  scale: toldQuery<Schemas["ScaleShows"]>(KEYS.scale),
  oven: toldQuery<Schemas["OvenShows"]>(KEYS.thermometer),
};

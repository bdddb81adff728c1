import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";
import { useLost, useOvenTold, useScaleTold } from "../../app/stream";

export type StandIns = Schemas["StandInsBody"];
export type Watch = Schemas["WatchOut"];

const DEVICES = ["devices"];
const WATCH = ["oven-watch"];
const LOOK_EVERY_MS = 5000;

export const useDevices = () =>
  useQuery({ queryKey: DEVICES, queryFn: () => body(api.GET("/api/devices")) });

/** What a device shows; a lost stream is a fault of its own. Null while it is switched off. */
function shown<T extends { fault: string | null }>(
  asked: T | null | undefined,
  told: T | null,
  lost: boolean,
): T | null {
  if (!asked) return null;
  const shows = told ?? asked;
  return lost ? { ...shows, fault: LOST } : shows;
}

export const useScale = () => shown(useDevices().data?.scale, useScaleTold(), useLost());

export const useThermometer = () => shown(useDevices().data?.oven, useOvenTold(), useLost());

const LOST = "The readings are cut off just now; they come back by themselves.";

export function usePlay() {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: "devices" },
    mutationFn: (standIns: StandIns) => body(api.PUT("/api/devices", { body: standIns })),
    onSuccess: (devices) => queries.setQueryData(DEVICES, devices),
  });
}

export function useTare() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.POST("/api/devices/scale/tare")),
    onSuccess: (devices) => {
      queries.setQueryData(["scale"], devices.scale);
    },
  });
}

export const useWatch = (wantedC: number | null, enabled: boolean) =>
  useQuery({
    queryKey: [...WATCH, wantedC],
    queryFn: () =>
      body(
        api.GET("/api/oven/watch", {
          params: { query: wantedC === null ? {} : { wanted_c: wantedC } },
        }),
      ),
    enabled,
    refetchInterval: LOOK_EVERY_MS,
  });

export const useOvenRecords = () =>
  useQuery({
    queryKey: [...WATCH, "records"],
    queryFn: () => body(api.GET("/api/oven/records")),
  });

/** Begin a watch, end it, or keep what it tells. */
export function useWatching() {
  const queries = useQueryClient();
  const onSuccess = () =>
    Promise.all(
      [WATCH, ["kitchen"], ["foresee"], ["plan"]].map((queryKey) =>
        queries.invalidateQueries({ queryKey }),
      ),
    );
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

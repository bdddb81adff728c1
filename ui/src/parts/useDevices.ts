import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../api/client";
import { devicesQuery, TOLD, wireQuery } from "../logic/queries";

export type ScaleShows = Schemas["ScaleShows"];

const LOST = "The readings are cut off just now; they come back by themselves.";

/** Whether the stream is cut just now. */
export const useLost = (): boolean => useQuery(wireQuery).data === "lost";

/** What a device shows; a lost stream is a fault of its own. Null while it is switched off. */
function shown<T extends { fault: string | null }>(
  asked: T | null | undefined,
  told: T | null | undefined,
  lost: boolean,
): T | null {
  if (!asked) return null;
  const shows = told ?? asked;
  return lost ? { ...shows, fault: LOST } : shows;
}

export function useScale(): ScaleShows | null {
  const devices = useQuery(devicesQuery);
  const told = useQuery(TOLD.scale);
  return shown(devices.data?.scale, told.data, useLost());
}

export function useThermometer(): Schemas["OvenShows"] | null {
  const devices = useQuery(devicesQuery);
  const told = useQuery(TOLD.oven);
  return shown(devices.data?.oven, told.data, useLost());
}

export function useTare() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => body(api.POST("/api/devices/scale/tare")),
    onSuccess: (devices) => {
      queries.setQueryData(TOLD.scale.queryKey, devices.scale);
    },
  });
}

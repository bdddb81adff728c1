import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";
import { devicesQuery } from "../../logic/queries";

export type StandIns = Schemas["StandInsBody"];
export type OnTheScale = Schemas["OnTheScale"];
export type OvenKnobs = Schemas["OvenKnobs"];

export function usePlay() {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: "devices" },
    mutationFn: (standIns: StandIns) => body(api.PUT("/api/devices", { body: standIns })),
    onSuccess: (devices) => queries.setQueryData(devicesQuery.queryKey, devices),
  });
}

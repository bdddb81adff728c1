import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, body, type TraySetting } from "../../api/client";

/** The tray foreseen with a setting that need not be kept; the last answer stays meanwhile. */
export const useForeseen = (
  doughId: number,
  setting: TraySetting,
  tried: string[] = [],
  enabled = true,
) =>
  useQuery({
    queryKey: ["foresee", doughId, setting, tried],
    queryFn: ({ signal }) =>
      body(
        api.POST("/api/doughs/{dough_id}/foresee", {
          params: { path: { dough_id: doughId } },
          body: { ...setting, tried },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    enabled,
  });

export const useKitchen = () =>
  useQuery({ queryKey: ["kitchen"], queryFn: () => body(api.GET("/api/kitchen")) });

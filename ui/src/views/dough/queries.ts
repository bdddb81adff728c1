import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, body, ProblemError, type Schemas, type TraySetting } from "../../api/client";

export const useDoughs = (search: string, most: number) =>
  useQuery({
    queryKey: ["doughs", search, most],
    queryFn: ({ signal }) =>
      body(api.GET("/api/doughs", { params: { query: { search, most } }, signal })),
    placeholderData: keepPreviousData,
  });

/** One dough; none is asked for where there is no number. */
export const useDough = (id: number | null) =>
  useQuery({
    queryKey: ["dough", id],
    queryFn: () =>
      body(api.GET("/api/doughs/{dough_id}", { params: { path: { dough_id: id ?? 0 } } })),
    enabled: id !== null,
  });

/** Whether an answer says that what was asked for is not there. */
export const isGone = (error: Error | null): boolean =>
  error instanceof ProblemError && error.status === 404;

export const useWords = () =>
  useQuery({
    queryKey: ["words"],
    queryFn: () => body(api.GET("/api/words")),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The card studied as it is on the screen; the last answer stays until the next is here. */
export const useStudy = (
  card: Schemas["Card"] | undefined,
  tray: TraySetting,
  doughId: number | null,
) =>
  useQuery({
    queryKey: ["study", card, tray, doughId],
    queryFn: ({ signal }) =>
      body(
        api.POST("/api/study", {
          body: { card: card as Schemas["Card"], tray, dough_id: doughId },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    enabled: card !== undefined,
  });

export const useVersions = (id: number) =>
  useQuery({
    queryKey: ["versions", id],
    queryFn: () =>
      body(api.GET("/api/doughs/{dough_id}/versions", { params: { path: { dough_id: id } } })),
  });

export const useVersion = (id: number, number: number | undefined) =>
  useQuery({
    queryKey: ["versions", id, number],
    queryFn: () =>
      body(
        api.GET("/api/doughs/{dough_id}/versions/{number}", {
          params: { path: { dough_id: id, number: number ?? 1 } },
        }),
      ),
    enabled: number !== undefined,
  });

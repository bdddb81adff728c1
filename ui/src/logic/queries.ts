import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, body, ProblemError, type Schemas, type TraySetting } from "../api/client";

/** What is asked of the server, by name: keys and requests stand here and nowhere else. */

const A_WHILE_MS = 10_000;
const FOR_GOOD = Number.POSITIVE_INFINITY;

export const doughsQuery = (search: string, most: number) =>
  queryOptions({
    queryKey: ["doughs", search, most],
    queryFn: ({ signal }) =>
      body(api.GET("/api/doughs", { params: { query: { search, most } }, signal })),
    placeholderData: keepPreviousData,
  });

/** One dough; none is asked for where there is no number. */
export const doughQuery = (id: number | null) =>
  queryOptions({
    queryKey: ["dough", id],
    queryFn: () =>
      body(api.GET("/api/doughs/{dough_id}", { params: { path: { dough_id: id ?? 0 } } })),
    enabled: id !== null,
  });

/** Whether an answer says that what was asked for is not there. */
export const isGone = (error: Error | null): boolean =>
  error instanceof ProblemError && error.status === 404;

export const wordsQuery = queryOptions({
  queryKey: ["words"],
  queryFn: () => body(api.GET("/api/words")),
  staleTime: FOR_GOOD,
});

/** The card studied as it is on the screen; the last answer stays until the next is here. */
export const studyQuery = (
  card: Schemas["Card"] | undefined,
  tray: TraySetting,
  doughId: number | null,
) =>
  queryOptions({
    queryKey: ["study", card, tray, doughId],
    queryFn: ({ signal }) =>
      body(
        api.POST("/api/study", {
          body: { card: card as Schemas["Card"], tray, dough_id: doughId },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
    enabled: card !== undefined,
  });

export const versionsQuery = (id: number) =>
  queryOptions({
    queryKey: ["versions", id],
    queryFn: () =>
      body(api.GET("/api/doughs/{dough_id}/versions", { params: { path: { dough_id: id } } })),
  });

export const versionQuery = (id: number, number: number | undefined) =>
  queryOptions({
    queryKey: ["versions", id, number],
    queryFn: () =>
      body(
        api.GET("/api/doughs/{dough_id}/versions/{number}", {
          params: { path: { dough_id: id, number: number ?? 1 } },
        }),
      ),
    enabled: number !== undefined,
  });

/** The tray foreseen with a setting that need not be kept; the last answer stays meanwhile. */
export const foreseenQuery = (
  doughId: number,
  setting: TraySetting,
  tried: string[] = [],
  enabled = true,
) =>
  queryOptions({
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
    gcTime: A_WHILE_MS,
    enabled,
  });

export const kitchenQuery = queryOptions({
  queryKey: ["kitchen"],
  queryFn: () => body(api.GET("/api/kitchen")),
});

/** Sheets that bakers have. */
export const sheetsQuery = queryOptions({
  queryKey: ["sheets"],
  queryFn: () => body(api.GET("/api/sheets")),
});

/** Pans that bakers have. */
export const pansQuery = queryOptions({
  queryKey: ["pans"],
  queryFn: () => body(api.GET("/api/pans")),
});

export const kindsQuery = queryOptions({
  queryKey: ["kinds"],
  queryFn: () => body(api.GET("/api/kinds")),
  staleTime: FOR_GOOD,
});

/** The kind of that name. */
export const kindOf = (kinds: Schemas["KindShown"][] | undefined, kind: string | undefined) =>
  kinds?.find((one) => one.kind === kind);

export const aboutQuery = queryOptions({
  queryKey: ["about"],
  queryFn: () => body(api.GET("/api/about")),
  staleTime: FOR_GOOD,
});

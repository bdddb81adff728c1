import { keepPreviousData, queryOptions, skipToken } from "@tanstack/react-query";
import { api, asking, body } from "../../api/client";
import { cornersAsked, type Place } from "../photo";
import { KEYS } from "./keys";
import { FOR_GOOD } from "./staying";

/** The bakes of one dough, or of all. */
export const bakesQuery = (doughId: number | null) =>
  queryOptions({
    queryKey: [...KEYS.bakes, doughId],
    queryFn: () =>
      body(api.GET("/api/bakes", { params: { query: doughId ? { dough_id: doughId } : {} } })),
  });

export const bookWordsQuery = queryOptions({
  queryKey: KEYS.bookWords,
  queryFn: () => body(api.GET("/api/book/words")),
  staleTime: FOR_GOOD,
});

export const lessonsQuery = queryOptions({
  queryKey: KEYS.lessons,
  queryFn: () => body(api.GET("/api/lessons")),
});

/** What a trouble comes from in this dough, once one is picked. */
export const diagnosisQuery = (doughId: number, trouble: string | null, bakeId: number | null) =>
  queryOptions({
    queryKey: [...KEYS.trouble, doughId, trouble, bakeId],
    queryFn: () =>
      body(
        api.GET("/api/doughs/{dough_id}/troubles/{trouble}", {
          params: {
            path: { dough_id: doughId, trouble: trouble ?? "" },
            query: bakeId === null ? {} : { bake_id: bakeId },
          },
        }),
      ),
    enabled: trouble !== null,
  });

/** A photo's tray: of which dough, of which session's tray. */
export interface PhotoOf {
  doughId: number;
  sessionId: number | null;
  tray: string | null;
  /** Whether it is loaded, and not baked yet. */
  raw?: boolean;
  /** Beside what of known size pieces lie (wide and deep, mm), where they lie on no sheet. */
  besideMm?: readonly [number, number];
}

const measured = (
  of: PhotoOf,
  photo: File,
  corners: readonly Place[] | null,
  signal: AbortSignal,
) =>
  body(
    asking.POST("/api/doughs/{dough_id}/photo", {
      params: {
        path: { dough_id: of.doughId },
        query: {
          ...(of.sessionId === null ? {} : { session_id: of.sessionId }),
          ...(of.tray === null ? {} : { tray: of.tray }),
          ...(of.besideMm ? { beside_mm: [...of.besideMm] } : {}),
          ...(of.raw ? { raw: true } : {}),
          ...(corners === null ? {} : { corner: cornersAsked(corners) }),
        },
      },
      body: photo as unknown as string,
      bodySerializer: (sent: unknown) => sent as Blob,
      headers: { "content-type": "application/octet-stream" },
      signal,
    }),
  );

/** A tray measured by a photo, by the corners that were put right, or those that are found. */
export const measuredQuery = (of: PhotoOf | null, photo: File, corners: readonly Place[] | null) =>
  queryOptions({
    queryKey: [...KEYS.measured, of, photo.name, photo.size, photo.lastModified, corners],
    queryFn: of === null ? skipToken : ({ signal }) => measured(of, photo, corners, signal),
    staleTime: FOR_GOOD,
    gcTime: 60_000,
    // While a corner is moved, what was measured by the one before is still seen.
    placeholderData: keepPreviousData,
  });

/** Where each oven browns and spreads most. */
export const ovenMapsQuery = queryOptions({
  queryKey: KEYS.ovenMaps,
  queryFn: () => body(api.GET("/api/oven-maps")),
});

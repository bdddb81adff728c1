import { keepPreviousData, queryOptions, skipToken } from "@tanstack/react-query";
import { api, asking, body, type Kitchen, type Schemas, type TraySetting } from "../../api/client";
import type { Aim } from "../aim";
import type { PieceOf } from "../pieces";
import { KEYS } from "./keys";
import { A_WHILE_MS, FOR_GOOD } from "./staying";

/** The tray foreseen with a setting that need not be kept; the last answer stays meanwhile. */
export const foreseenQuery = (
  doughId: number,
  setting: TraySetting,
  tried: string[] = [],
  enabled = true,
) =>
  queryOptions({
    queryKey: [...KEYS.foreseen, doughId, setting, tried],
    queryFn: ({ signal }) =>
      body(
        asking.POST("/api/doughs/{dough_id}/foresee", {
          params: { path: { dough_id: doughId } },
          body: { ...setting, tried },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
    enabled,
  });

/** The sizes side by side. */
export const ladderQuery = (doughId: number, setting: TraySetting, tried: string[]) =>
  queryOptions({
    queryKey: [...KEYS.ladder, doughId, setting, tried],
    queryFn: ({ signal }) =>
      body(
        asking.POST("/api/doughs/{dough_id}/ladder", {
          params: { path: { dough_id: doughId } },
          body: { ...setting, tried },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
  });

/** Ways from a dough to what is wished of it; a coarse one at once, the whole answer when asked. */
export const aimQuery = (
  dough: { id: number; revision: number },
  setting: TraySetting,
  aim: Aim,
  coarse: boolean,
  enabled: boolean,
) =>
  queryOptions({
    queryKey: [...KEYS.aim, dough.id, dough.revision, setting, aim, coarse],
    queryFn: ({ signal }) =>
      body(
        asking.POST("/api/doughs/{dough_id}/aim", {
          params: { path: { dough_id: dough.id } },
          body: { ...setting, aim, coarse },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
    enabled,
  });

/** How long this shape takes in the cold; it rests on how cold the kitchen's places are. */
export const chillQuery = (
  doughId: number,
  setting: TraySetting,
  kitchen: Kitchen,
  place: "fridge" | "freezer",
  startC: number,
) =>
  queryOptions({
    queryKey: [...KEYS.chill, doughId, setting, place, startC, kitchen],
    queryFn: () =>
      body(
        asking.POST("/api/doughs/{dough_id}/chill", {
          params: { path: { dough_id: doughId } },
          body: { ...setting, place, start_c: startC },
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
  });

/** Which pieces meet or lie off the sheet, where they were moved by hand. */
export const sheetCheckQuery = (asked: Schemas["PlacedBody"] | undefined, enabled: boolean) =>
  queryOptions({
    queryKey: [...KEYS.sheetCheck, asked],
    queryFn: asked ? () => body(asking.POST("/api/sheet-check", { body: asked })) : skipToken,
    enabled,
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
  });

/** Sheets that bakers have. */
export const sheetsQuery = queryOptions({
  queryKey: KEYS.sheets,
  queryFn: () => body(api.GET("/api/sheets")),
});

/** What kitchens usually have, by region. */
export const regionsQuery = queryOptions({
  queryKey: KEYS.regions,
  queryFn: () => body(api.GET("/api/regions")),
  staleTime: FOR_GOOD,
});

/** Pans that bakers have. */
export const pansQuery = queryOptions({
  queryKey: KEYS.pans,
  queryFn: () => body(api.GET("/api/pans")),
});

/** How much dough other pans take to the same depth. */
export const otherPansQuery = (piece: PieceOf<"pan">) =>
  queryOptions({
    queryKey: [...KEYS.otherPans, piece],
    queryFn: async () => {
      const pans = await body(api.GET("/api/pans"));
      return Promise.all(
        pans.map(async ({ name, pan }) => ({
          name,
          ...(await body(asking.POST("/api/same-depth", { body: { pan: piece, other: pan } }))),
        })),
      );
    },
  });

export const kindsQuery = queryOptions({
  queryKey: KEYS.kinds,
  queryFn: () => body(api.GET("/api/kinds")),
  staleTime: FOR_GOOD,
});

/** The kind of that name. */
export const kindOf = (kinds: Schemas["KindShown"][] | undefined, kind: string | undefined) =>
  kinds?.find((one) => one.kind === kind);

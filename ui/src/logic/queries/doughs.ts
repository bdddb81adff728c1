import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import {
  api,
  asking,
  body,
  type CardBody,
  ProblemError,
  type Schemas,
  type TraySetting,
} from "../../api/client";
import { KEYS } from "./keys";
import { A_WHILE_MS, FOR_GOOD } from "./staying";

/** How doughs are looked for: by letters, with a label, in an order. */
export interface Looked {
  search: string;
  order: "changed" | "name" | "baked";
  label: string;
}

const PAGE = 60;

/** The drawer, page by page; favourites first. */
export const drawerPagesQuery = (looked: Looked) =>
  infiniteQueryOptions({
    queryKey: [...KEYS.doughs, looked],
    queryFn: ({ signal, pageParam }) =>
      body(
        api.GET("/api/doughs", {
          params: { query: { ...looked, most: PAGE, skip: pageParam } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const seen = pages.reduce((sum, page) => sum + page.doughs.length, 0);
      return seen < last.total && last.doughs.length > 0 ? seen : undefined;
    },
    placeholderData: keepPreviousData,
  });

/** Every dough by its name. */
export const doughNamesQuery = queryOptions({
  queryKey: [...KEYS.doughs, "names"],
  queryFn: () => body(api.GET("/api/dough-names")),
});

/** The labels that doughs have. */
export const labelsQuery = queryOptions({
  queryKey: [...KEYS.doughs, "labels"],
  queryFn: () => body(api.GET("/api/labels")),
});

/** One dough; none is asked for where there is no number. */
export const doughQuery = (id: number | null) =>
  queryOptions({
    queryKey: [...KEYS.dough, id],
    queryFn: () =>
      body(api.GET("/api/doughs/{dough_id}", { params: { path: { dough_id: id ?? 0 } } })),
    enabled: id !== null,
  });

/** Whether an answer says that what was asked for is not there. */
export const isGone = (error: Error | null): boolean =>
  error instanceof ProblemError && error.status === 404;

export const wordsQuery = queryOptions({
  queryKey: KEYS.words,
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
    queryKey: [...KEYS.study, card, tray, doughId],
    queryFn: ({ signal }) =>
      body(
        asking.POST("/api/study", {
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
    queryKey: [...KEYS.versions, id],
    queryFn: () =>
      body(api.GET("/api/doughs/{dough_id}/versions", { params: { path: { dough_id: id } } })),
  });

export const versionQuery = (id: number, number: number | undefined) =>
  queryOptions({
    queryKey: [...KEYS.versions, id, number],
    queryFn: () =>
      body(
        api.GET("/api/doughs/{dough_id}/versions/{number}", {
          params: { path: { dough_id: id, number: number ?? 1 } },
        }),
      ),
    enabled: number !== undefined,
  });

/** What changed between two cards, once both are here. */
export const compareQuery = (
  before: CardBody | undefined,
  after: CardBody | undefined,
  tray: TraySetting,
  doughId: number,
) =>
  queryOptions({
    queryKey: [...KEYS.compare, before, after, tray],
    queryFn: ({ signal }) =>
      body(
        asking.POST("/api/compare", {
          body: { before: before as CardBody, after: after as CardBody, tray, dough_id: doughId },
          signal,
        }),
      ),
    gcTime: A_WHILE_MS,
    enabled: before !== undefined && after !== undefined,
  });

/** A card in grams and questions while it is typed or pasted. */
export const readQuery = (text: string) =>
  queryOptions({
    queryKey: [...KEYS.read, text],
    queryFn: ({ signal }) => body(asking.POST("/api/read", { body: { text }, signal })),
    placeholderData: keepPreviousData,
    staleTime: FOR_GOOD,
    gcTime: A_WHILE_MS,
    enabled: text.trim() !== "",
  });

/** All that each line of a card can mean, by its text; what does not depend on the amounts as they are. */
export const readingsQuery = (texts: string[]) =>
  queryOptions({
    queryKey: [...KEYS.readings, texts],
    queryFn: async ({ signal }) => {
      const found = await body(asking.POST("/api/readings", { body: { texts }, signal }));
      return new Map(texts.map((text, n) => [text, found[n] ?? []]));
    },
    placeholderData: keepPreviousData,
    staleTime: FOR_GOOD,
    gcTime: A_WHILE_MS,
    enabled: texts.length > 0,
  });

/** The card scaled as wished. */
export const scalingQuery = (
  card: CardBody,
  wish: Omit<Schemas["ScaleBody"], "card">,
  enabled: boolean,
) =>
  queryOptions({
    queryKey: [...KEYS.scaling, card, wish],
    queryFn: ({ signal }) => body(asking.POST("/api/scale", { body: { card, ...wish }, signal })),
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
    enabled,
  });

/** Swaps that apply to a card, each with what it would change. */
export const swapsQuery = (card: CardBody, tray: TraySetting, doughId: number) =>
  queryOptions({
    queryKey: [...KEYS.swaps, card, tray, doughId],
    queryFn: ({ signal }) =>
      body(asking.POST("/api/swaps", { body: { card, tray, dough_id: doughId }, signal })),
    gcTime: A_WHILE_MS,
  });

export const larderQuery = queryOptions({
  queryKey: KEYS.larder,
  queryFn: () => body(api.GET("/api/larder")),
});

/** What is in the house, in the order in which it came. */
export const stockQuery = queryOptions({
  queryKey: [...KEYS.stock, "packs"],
  queryFn: () => body(api.GET("/api/stock")),
});

/** What can be made of it. */
export const makesQuery = queryOptions({
  queryKey: KEYS.makes,
  queryFn: () => body(api.GET("/api/stock/makes")),
});

/** What other figures of an ingredient would change in the doughs that have it. */
export const effectsQuery = (shelf: Schemas["ShelfOut"] | undefined, facts: Schemas["FactsBody"]) =>
  queryOptions({
    queryKey: [...KEYS.effects, shelf?.key, facts],
    queryFn: ({ signal }) =>
      body(
        asking.POST("/api/larder/{key}/effects", {
          params: { path: { key: shelf?.key ?? "" } },
          body: facts,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: A_WHILE_MS,
    enabled: shelf !== undefined && shelf.doughs > 0,
    retry: false,
  });

import { queryOptions } from "@tanstack/react-query";
import { api, body } from "../../api/client";
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

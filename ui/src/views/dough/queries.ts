import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, body, type Line } from "../../api/client";

export const useWords = () =>
  useQuery({
    queryKey: ["words"],
    queryFn: () => body(api.GET("/api/words")),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const useDoughs = () =>
  useQuery({ queryKey: ["doughs"], queryFn: () => body(api.GET("/api/doughs")) });

export const useDough = (id: number) =>
  useQuery({
    queryKey: ["dough", id],
    queryFn: () => body(api.GET("/api/doughs/{dough_id}", { params: { path: { dough_id: id } } })),
  });

/** Lines in grams while they are typed; the last answer stays until the next one is here. */
export const useWeighed = (lines: Line[]) =>
  useQuery({
    queryKey: ["weigh", lines],
    queryFn: ({ signal }) => body(api.POST("/api/weigh", { body: { lines }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
  });

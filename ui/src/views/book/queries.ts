import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, body, type Schemas } from "../../api/client";

export const useBakes = (doughId: number) =>
  useQuery({
    queryKey: ["bakes", doughId],
    queryFn: () => body(api.GET("/api/bakes", { params: { query: { dough_id: doughId } } })),
  });

export const useColours = () =>
  useQuery({
    queryKey: ["colours"],
    queryFn: () => body(api.GET("/api/colours")),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Whatever changes the book changes what is foreseen, everywhere. */
function useForget() {
  const queries = useQueryClient();
  return () =>
    Promise.all(
      ["bakes", "foresee", "plan"].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    );
}

export function useRecord() {
  const forget = useForget();
  return useMutation({
    mutationFn: (record: Schemas["RecordBody"]) => body(api.POST("/api/bakes", { body: record })),
    onSuccess: forget,
  });
}

export function useTakeOut() {
  const forget = useForget();
  return useMutation({
    mutationFn: (id: number) =>
      body(api.DELETE("/api/bakes/{bake_id}", { params: { path: { bake_id: id } } })),
    onSuccess: forget,
  });
}

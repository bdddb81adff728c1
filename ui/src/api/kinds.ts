import { useQuery } from "@tanstack/react-query";
import { api, body, type Schemas } from "./client";

/** The kinds of portioning: their words, what each starts with, what it asks. */
export const useKinds = () =>
  useQuery({
    queryKey: ["kinds"],
    queryFn: () => body(api.GET("/api/kinds")),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const kindOf = (kinds: Schemas["KindShown"][] | undefined, kind: string | undefined) =>
  kinds?.find((one) => one.kind === kind);

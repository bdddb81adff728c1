import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, body } from "../api/client";
import { NEW_DOUGH } from "../logic/draft";
import { KEYS } from "../logic/queries";
import { pastingOf, remember } from "../logic/remembered";

/** Start a dough and go to it: to write its card line by line, or to paste one. */
export function useNewDough() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (_how: "written" | "pasted") => body(api.POST("/api/doughs", { body: NEW_DOUGH })),
    onSuccess: async (dough, how) => {
      const path = `/dough/${dough.id}`;
      if (how === "pasted") remember<string | null>(pastingOf(path, "dough"), "", null);
      await queries.invalidateQueries({ queryKey: KEYS.doughs });
      navigate(path);
    },
  });
}

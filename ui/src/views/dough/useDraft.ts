import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { api, body, type Dough } from "../../api/client";
import { type Card, draftOf, plainLines, reduce } from "./draft";

const PAUSE_MS = 350;

/** A dough being edited: every change is kept by itself, shortly after it is made. */
export function useDraft(dough: Dough) {
  const [draft, change] = useReducer(reduce, dough, draftOf);
  const [problem, setProblem] = useState<Error | null>(null);
  const [kept, setKept] = useState<Card>(draft.card);
  const revision = useRef(dough.revision);
  const saving = useRef<Promise<void> | null>(null);
  const latest = useRef(draft.card);
  latest.current = draft.card;
  const queries = useQueryClient();

  const keep = useCallback(
    async (card: Card) => {
      await saving.current;
      const save = body(
        api.PUT("/api/doughs/{dough_id}", {
          params: { path: { dough_id: dough.id } },
          body: {
            name: card.name,
            family: card.family,
            mixing: card.mixing,
            lines: plainLines(card),
            revision: revision.current,
          },
        }),
      ).then(
        (after) => {
          revision.current = after.revision;
          setKept(card);
          setProblem(null);
          queries.setQueryData(["dough", dough.id], after);
          queries.invalidateQueries({ queryKey: ["doughs"] });
          queries.invalidateQueries({ queryKey: ["foresee", dough.id] });
        },
        (error: Error) => setProblem(error),
      );
      saving.current = save;
      await save;
    },
    [dough.id, queries],
  );

  useEffect(() => {
    if (draft.card === kept) return;
    const timer = setTimeout(() => keep(draft.card), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [draft.card, kept, keep]);

  // Leaving the screen does not wait for the pause.
  useEffect(
    () => () => {
      if (latest.current !== kept) void keep(latest.current);
    },
    [kept, keep],
  );

  return { draft, change, problem, saved: draft.card === kept };
}

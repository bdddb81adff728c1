import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { justThrownQuery, threwAway } from "../logic/queries";
import { Cross } from "../parts/Cross";
import { Notice } from "../parts/Notice";
import { usePutBack } from "../parts/usePutBack";

const SEEN_MS = 60_000;

/** What was thrown away just now, with the press that takes it back; the bin has it for a month. */
export function Undo() {
  const queries = useQueryClient();
  const { data: thrown } = useQuery(justThrownQuery);
  const back = usePutBack();
  useEffect(() => {
    if (!thrown) return;
    const later = setTimeout(() => threwAway(queries, null), SEEN_MS);
    return () => clearTimeout(later);
  }, [thrown, queries]);
  return (
    <div aria-live="polite" className="bg-sheet print:hidden">
      {thrown && (
        <p className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 py-1.5 max-sm:px-3">
          <span className="min-w-0 break-words">
            <strong>{thrown.name}</strong> lies in the bin, for 30 days.
          </span>
          <button
            type="button"
            className="press min-h-9"
            disabled={back.isPending}
            onClick={() => back.mutate(thrown.id)}
          >
            Take it back
          </button>
          <button
            type="button"
            className="icon-press ml-auto"
            aria-label="Say no more of it"
            onClick={() => threwAway(queries, null)}
          >
            <Cross />
          </button>
          <Notice problem={back.error} />
        </p>
      )}
    </div>
  );
}

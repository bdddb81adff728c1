import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type BakingSession, body } from "../../api/client";
import type { BakeEvent } from "../../logic/events";
import { currentSessionQuery, showSession } from "../../logic/queries";
import { sayIt, takeBack } from "../../parts/said/outbox";

/** Say what happened, which waits where nobody answers; the answer is the session with its rest planned again. What happened is kept
 * and told before that: `busy` is only until then. */
export function useEvents(session: BakingSession) {
  const queries = useQueryClient();
  const [mark, setMark] = useState(-1);
  const params = { params: { path: { session_id: session.id } } };
  // A look at the session that was asked before the event must not be shown after it.
  const onMutate = () => {
    setMark(session.happened);
    return queries.cancelQueries({ queryKey: currentSessionQuery.queryKey });
  };
  // Nothing is answered to what waits for a network.
  const onSuccess = (after: BakingSession | null) => after && showSession(queries, after);
  const telling = useMutation({
    mutationFn: (what: BakeEvent) => sayIt(queries, session, what),
    onMutate,
    onSuccess,
  });
  const undo = useMutation({
    mutationFn: () => takeBack(queries, session),
    onMutate,
    onSuccess,
  });
  const giveUp = useMutation({
    mutationFn: () => body(api.POST("/api/sessions/{session_id}/give-up", params)),
    onMutate,
    onSuccess,
  });
  const busy = (telling.isPending || undo.isPending) && session.happened === mark;
  return { telling, undo, giveUp, busy };
}

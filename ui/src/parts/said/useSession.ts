import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import type { BakingSession } from "../../api/client";
import { aheadMs } from "../../logic/clock";
import { currentSessionQuery } from "../../logic/queries";
import { withWaiting } from "../../logic/waiting";
import { useWaiting } from "./outbox";

/** The session that is baked, or was last, with what was said here and waits to be heard. */
export function useSession(everyMs?: number) {
  const waiting = useWaiting();
  const select = useCallback(
    (session: BakingSession | null) => session && withWaiting(session, waiting, aheadMs()),
    [waiting],
  );
  const oftener = everyMs === undefined ? {} : { refetchInterval: everyMs };
  return useQuery({ ...currentSessionQuery, ...oftener, select });
}

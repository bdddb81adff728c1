import type { QueryClient, QueryKey } from "@tanstack/react-query";
import type { BakingSession } from "../../api/client";
import { bookWordsQuery } from "./book";
import { wordsQuery } from "./doughs";
import { KEYS } from "./keys";
import {
  currentSessionQuery,
  planQuery,
  sessionTrayQuery,
  shelfQuery,
  weighingQuery,
} from "./sessions";
import { basesQuery, drawerQuery, FIRST_DRAWN, todayQuery } from "./today";
import { kindsQuery } from "./trays";

/** What Today, Bake and the run sheet show, and the frame around them. */
export const KEPT_AT_HAND: readonly QueryKey[] = [
  KEYS.about,
  KEYS.bookWords,
  KEYS.cold,
  KEYS.drawn,
  KEYS.kinds,
  KEYS.kitchen,
  KEYS.me,
  KEYS.plan,
  KEYS.session,
  KEYS.sessionTray,
  KEYS.shelf,
  KEYS.weighing,
  KEYS.words,
];

/** Ask for what these screens show first, whichever is opened. */
export function bringFirst(queries: QueryClient): void {
  void queries.prefetchQuery(currentSessionQuery);
  void queries.prefetchQuery(planQuery);
  void queries.prefetchQuery(todayQuery);
  void queries.prefetchQuery(drawerQuery("", FIRST_DRAWN));
  void queries.prefetchQuery(basesQuery);
  void queries.prefetchQuery(wordsQuery);
  void queries.prefetchQuery(bookWordsQuery);
  void queries.prefetchQuery(kindsQuery);
}

/** Ask for what the jobs of a session will show. */
export function bringJobs(queries: QueryClient, session: BakingSession): void {
  void queries.prefetchQuery(shelfQuery(session));
  for (const { letter } of session.doughs)
    void queries.prefetchQuery(sessionTrayQuery(session.id, letter, true));
  for (const job of session.activities)
    if (job.may_be_weighed) void queries.prefetchQuery(weighingQuery(session.id, job.key, true));
}

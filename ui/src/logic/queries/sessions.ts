import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { api, asking, type BakingSession, body } from "../../api/client";
import { setClock } from "../clock";
import { KEYS } from "./keys";
import { FOR_GOOD } from "./staying";

const LOOK_AGAIN_MS = 5000;
const SEARCHING_MS = 600;

/** The session that is baked, or was last. */
export const currentSessionQuery = queryOptions({
  queryKey: [...KEYS.session, "current"],
  queryFn: async ({ client }): Promise<BakingSession | null> => {
    const session = await body(api.GET("/api/sessions/current"));
    if (session) setClock(session.now);
    return newer(session, client.getQueryData(currentSessionQuery.queryKey) ?? null);
  },
  refetchInterval: LOOK_AGAIN_MS,
});

/** Whether an answer was asked for before what is shown. */
const isOlder = (session: BakingSession, shown: BakingSession): boolean =>
  session.id === shown.id && session.changed_at < shown.changed_at;

const newer = (session: BakingSession | null, shown: BakingSession | null) =>
  session && shown && isOlder(session, shown) ? shown : session;

/** Show a session, unless what is shown is newer; a look that was asked before is dropped. */
export async function showSession(queries: QueryClient, session: BakingSession): Promise<void> {
  const { queryKey } = currentSessionQuery;
  setClock(session.now);
  await queries.cancelQueries({ queryKey });
  queries.setQueryData(queryKey, newer(session, queries.getQueryData(queryKey) ?? null));
}

/** Show what the stream tells, if it is of the session that is shown or of one that is baked. */
export function hearSession(queries: QueryClient, session: BakingSession): void {
  const shown = queries.getQueryData(currentSessionQuery.queryKey);
  if (session.state === "running" || shown?.id === session.id) void showSession(queries, session);
}

/** The session that a bake is recorded for, with the trays of this dough; null when it has none. */
export const bakedSessionQuery = (doughId: number, id: number | null) =>
  queryOptions({
    queryKey: [...KEYS.session, id, doughId],
    queryFn: async () => {
      if (id === null) return null;
      const found = await body(
        api.GET("/api/sessions/{session_id}", { params: { path: { session_id: id } } }),
      );
      const own = found.doughs.filter((d) => d.dough_id === doughId).map((d) => d.letter);
      if (own.length === 0) return null;
      return { ...found, trays: found.trays.filter((t) => own.includes(t.dough)) };
    },
  });

/** A session's dough in its pieces: what is drawn beside a job. It stays what it was planned as. */
export const sessionTrayQuery = (sessionId: number, letter: string, enabled: boolean) =>
  queryOptions({
    queryKey: [...KEYS.sessionTray, sessionId, letter],
    queryFn: () =>
      body(
        api.GET("/api/sessions/{session_id}/doughs/{letter}/tray", {
          params: { path: { session_id: sessionId, letter } },
        }),
      ),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What is weighed next in a job. */
export const weighingQuery = (sessionId: number, activity: string, enabled: boolean) =>
  queryOptions({
    queryKey: [...KEYS.weighing, sessionId, activity],
    queryFn: () =>
      body(
        api.GET("/api/sessions/{session_id}/weighing/{activity}", {
          params: { path: { session_id: sessionId, activity } },
        }),
      ),
    enabled,
  });

/** The plan that has not been started; asked for again while better ones are looked for. */
export const planQuery = queryOptions({
  queryKey: KEYS.plan,
  queryFn: () => body(api.GET("/api/plan")),
  refetchInterval: (query) => (query.state.data?.searching ? SEARCHING_MS : false),
});

/** Show this plan; a look at the one before that is still on its way is dropped first. */
export async function showPlan(queries: QueryClient, plan: BakingSession | null): Promise<void> {
  await queries.cancelQueries({ queryKey: planQuery.queryKey });
  queries.setQueryData(planQuery.queryKey, plan);
}

/** What the whole session needs, and what leaves the cold when. */
export const shelfQuery = (plan: BakingSession) =>
  queryOptions({
    queryKey: [...KEYS.shelf, plan.id, plan.start_at, plan.doughs],
    queryFn: () =>
      body(
        api.GET("/api/sessions/{session_id}/shelf", { params: { path: { session_id: plan.id } } }),
      ),
  });

/** The sessions that are kept, to be planned again. */
export const keptSessionsQuery = queryOptions({
  queryKey: KEYS.keptSessions,
  queryFn: () => body(api.GET("/api/sessions-to-plan")),
});

/** The occasions that are kept. */
export const occasionsQuery = queryOptions({
  queryKey: KEYS.occasions,
  queryFn: () => body(api.GET("/api/occasions")),
});

const ideasKey = (plan: BakingSession) => [...KEYS.ideas, plan.id, plan.finish_at, plan.start_at];

/** What may be tried to be ready sooner. */
export const ideasQuery = (plan: BakingSession) =>
  queryOptions({
    queryKey: ideasKey(plan),
    queryFn: () => body(api.GET("/api/plan/ideas")),
    enabled: !plan.searching,
  });

/** How the session would go by hand. */
export const byHandQuery = (plan: BakingSession) =>
  queryOptions({
    queryKey: [...ideasKey(plan), "by-hand"],
    queryFn: () => body(api.GET("/api/plan/by-hand")),
    enabled: !plan.searching,
  });

/** The plan that there is beside the one shown: the calmer one, or the soonest. */
export const otherPlanQuery = (plan: BakingSession | null, enabled: boolean) =>
  queryOptions({
    queryKey: [...KEYS.ideas, plan?.id, plan?.finish_at, plan?.start_at, "other"],
    queryFn: () => body(api.GET("/api/plan/other")),
    enabled: enabled && plan !== null && !plan.searching,
    staleTime: FOR_GOOD,
  });

/** One idea, really planned again. */
export const triedQuery = (plan: BakingSession, number: number, enabled: boolean) =>
  queryOptions({
    queryKey: [...ideasKey(plan), number],
    queryFn: () => body(asking.POST("/api/plan/ideas/{number}", { params: { path: { number } } })),
    enabled,
    staleTime: FOR_GOOD,
  });

/** Which screens are open and which of them rings; asking says that this one is here. */
export const ringingQuery = ({ id, name }: { id: string; name: string }) =>
  queryOptions({
    queryKey: KEYS.ringing,
    queryFn: async () => {
      const ringing = await body(asking.POST("/api/ringing/here", { body: { screen: id, name } }));
      setClock(ringing.now);
      return ringing;
    },
    retry: false,
    staleTime: 0,
  });

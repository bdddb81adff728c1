import {
  type DehydratedState,
  dehydrate,
  hashKey,
  hydrate,
  type Query,
  type QueryClient,
} from "@tanstack/react-query";
import { AT_HAND, type BakingSession, wasLetGo } from "../api/client";
import { setAhead } from "../logic/clock";
import { bringFirst, bringJobs, currentSessionQuery, KEPT_AT_HAND } from "../logic/queries";
import { hearOfInstalling } from "../parts/elsewhere/installing";

const KEEP_EVERY_MS = 5_000;
const A_DAY_MS = 24 * 60 * 60_000;
/** It has another name in every build, whose answers may be others. */
const BUILD = import.meta.url;

interface Kept {
  build: string;
  at: number;
  state: DehydratedState;
}

/**
 * Have Today, Bake and the run sheet at hand on a tablet or phone when its network drops: what they
 * showed last is kept in its browser, and the screens themselves by a service worker, where the
 * certificate is trusted.
 */
export function haveAtHand(queries: QueryClient): void {
  for (const queryKey of KEPT_AT_HAND) queries.setQueryDefaults(queryKey, { gcTime: A_DAY_MS });
  hearOfInstalling();
  takeUp(queries);
  keep(queries);
  fetchAhead(queries);
  navigator.serviceWorker?.register("/worker.js").catch(() => {
    // A certificate that is not trusted: the screens are there as long as the page is open.
  });
  navigator.serviceWorker?.addEventListener("message", ({ data }) => {
    if (typeof data?.goTo === "string" && location.pathname !== data.goTo)
      location.assign(data.goTo);
  });
}

function takeUp(queries: QueryClient): void {
  try {
    const kept: Kept = JSON.parse(localStorage.getItem(AT_HAND) ?? "null");
    if (kept?.build !== BUILD || Date.now() - kept.at > A_DAY_MS) return;
    hydrate(queries, kept.state);
    const state = queries.getQueryState<BakingSession | null>(currentSessionQuery.queryKey);
    if (state?.data) setAhead(state.data.now - state.dataUpdatedAt);
  } catch {
    // What cannot be read is asked for.
  }
  // It may be another one meanwhile; what is shown until an answer comes is what was.
  void queries.invalidateQueries({ refetchType: "none" });
}

const isKept = ({ queryKey, state }: Query): boolean =>
  state.data !== undefined &&
  KEPT_AT_HAND.some((first) => first.every((part, n) => queryKey[n] === part));

/** What is shown, every few seconds in which it has changed, and once nobody looks. */
function keep(queries: QueryClient): void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  const write = () => {
    if (timer) clearTimeout(timer);
    timer = null;
    if (wasLetGo()) return;
    const state = dehydrate(queries, { shouldDehydrateQuery: isKept });
    const kept: Kept = { build: BUILD, at: Date.now(), state };
    try {
      localStorage.setItem(AT_HAND, JSON.stringify(kept));
    } catch {
      // No room: the page that is open goes on.
    }
  };
  queries.getQueryCache().subscribe(({ type, query }) => {
    if (type === "updated" && isKept(query)) timer ??= setTimeout(write, KEEP_EVERY_MS);
  });
  document.addEventListener("visibilitychange", () => timer && write());
}

/** What the next jobs will show, before the network drops. */
function fetchAhead(queries: QueryClient): void {
  bringFirst(queries);
  let ahead = -1;
  const current = hashKey(currentSessionQuery.queryKey);
  queries.getQueryCache().subscribe(({ type, query }) => {
    if (type !== "updated" || query.queryHash !== current) return;
    const session = query.state.data as BakingSession | null | undefined;
    if (!session || session.id === ahead || session.state !== "running") return;
    ahead = session.id;
    bringJobs(queries, session);
  });
}

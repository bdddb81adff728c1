import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { asking, type BakingSession, body, ProblemError } from "../../api/client";
import { PRESS } from "../../api/press";
import { isAway } from "../../api/untilKept";
import type { BakeEvent } from "../../logic/events";
import { currentSessionQuery, showSession, wireQuery } from "../../logic/queries";
import {
  readWaiting,
  saidInWords,
  stillWaiting,
  takenBackBy,
  type Waiting,
  waitedMs,
} from "../../logic/waiting";
import { type Store, store, useStored } from "../calling/store";

const KEPT = "finebatch.waits";
const SEND_MS = 8_000;
const AGAIN_MS = 1_000;

const waiting: Store<readonly Waiting[]> = store(read());
window.addEventListener("storage", (event) => {
  if (event.key === KEPT) waiting.set(read());
});

function read(): readonly Waiting[] {
  try {
    return readWaiting(localStorage.getItem(KEPT));
  } catch {
    // A browser that keeps nothing has them until it is closed.
    return waiting?.get() ?? [];
  }
}

/** Another window of this browser may have changed it. */
function change(to: (before: readonly Waiting[]) => readonly Waiting[]): void {
  const after = to(read());
  waiting.set(after);
  try {
    if (after.length > 0) localStorage.setItem(KEPT, JSON.stringify(after));
    else localStorage.removeItem(KEPT);
  } catch {
    // As above.
  }
}

const without = (gone: Waiting) => (all: readonly Waiting[]) =>
  all.filter((one) => one.key !== gone.key);

/** What was said and waits, and what came too late, in the order in which it was said. */
export const useWaiting = (): readonly Waiting[] => useStored(waiting);

/** Whoever read it knows that it came too late. */
export const forgetLate = (): void => change((all) => all.filter((one) => one.late === null));

async function send(one: Waiting): Promise<BakingSession> {
  const params = { path: { session_id: one.session } };
  const how = { params, headers: { [PRESS]: one.key }, signal: AbortSignal.timeout(SEND_MS) };
  if (one.what === "undo") return body(asking.POST("/api/sessions/{session_id}/undo", how));
  const ago_ms = one.tried ? waitedMs(one, Date.now()) : 0;
  const said = { ...one.what, ago_ms };
  return body(asking.POST("/api/sessions/{session_id}/events", { ...how, body: said }));
}

/** Whether it may be said later: nobody answered, or this device is not let in just now. */
const isOff = (problem: unknown): boolean =>
  isAway(problem) || (problem instanceof ProblemError && [401, 429].includes(problem.status));

/**
 * Say what happened. Where nobody answers it waits, with when it was said, and is sent in its order
 * once somebody does: null is answered meanwhile.
 */
export async function sayIt(
  queries: QueryClient,
  session: BakingSession,
  what: BakeEvent | "undo",
): Promise<BakingSession | null> {
  const one: Waiting = {
    key: crypto.randomUUID(),
    session: session.id,
    what,
    words: saidInWords(session, what),
    at: Date.now(),
    tried: false,
    late: null,
  };
  const lost = queries.getQueryData(wireQuery.queryKey) === "lost";
  const inOrder = stillWaiting(waiting.get()).length === 0;
  if (inOrder && !lost) {
    try {
      return await send(one);
    } catch (problem) {
      if (problem instanceof ProblemError && problem.isKept) return null;
      if (!isOff(problem)) throw problem;
      one.tried = true;
    }
  }
  change((all) => [...all, one]);
  void sendAll(queries);
  return null;
}

/** Take the last thing back that was said; one that nobody can have heard is only forgotten. */
export async function takeBack(
  queries: QueryClient,
  session: BakingSession,
): Promise<BakingSession | null> {
  const last = stillWaiting(waiting.get(), session.id).at(-1);
  if (last === undefined || last.tried) return sayIt(queries, session, "undo");
  change(without(last));
  return null;
}

const pause = (ms: number) =>
  new Promise<void>((done) => {
    const timer = setTimeout(over, ms);
    function over() {
      clearTimeout(timer);
      window.removeEventListener("online", over);
      done();
    }
    window.addEventListener("online", over);
  });

let sending: Promise<void> | null = null;

/** Send what waits, one after the other, until nothing does. Where two windows of a browser do, the
 * server knows each press by its key. */
export function sendAll(queries: QueryClient): Promise<void> {
  sending ??= sendEach(queries).finally(() => {
    sending = null;
  });
  return sending;
}

async function sendEach(queries: QueryClient): Promise<void> {
  for (;;) {
    const [first] = stillWaiting(waiting.get());
    if (!first) return;
    // Before it is sent: a window that is closed now leaves one that may have been heard.
    if (!first.tried) change(marked(first, { tried: true }));
    try {
      await showSession(queries, await send({ ...first, tried: true }));
      change(without(first));
    } catch (problem) {
      if (isOff(problem)) {
        await pause(AGAIN_MS);
        continue;
      }
      const kept = problem instanceof ProblemError && problem.isKept;
      const late = problem instanceof Error ? problem.message : "";
      // Else that would take back what somebody said before it.
      const back = kept ? undefined : takenBackBy(waiting.get(), first);
      if (back) change(without(back));
      change(kept ? without(first) : marked(first, { late }));
      await queries.invalidateQueries({ queryKey: currentSessionQuery.queryKey });
    }
  }
}

/** What waited when this window was closed is sent now. */
export function useSendsWhatWaits(): void {
  const queries = useQueryClient();
  useEffect(() => {
    if (stillWaiting(waiting.get()).length > 0) void sendAll(queries);
  }, [queries]);
}

const marked = (one: Waiting, as: Partial<Waiting>) => (all: readonly Waiting[]) =>
  all.map((other) => (other.key === one.key ? { ...other, ...as } : other));

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import type { BakingSession } from "../api/client";
import { type Call, callsOf } from "../logic/alarms";
import { countdown } from "../logic/format";
import { ringingQuery } from "../logic/queries";
import { readTimers, timersKeptAt } from "../logic/timers";
import { notice, useManner } from "../parts/calling/manner";
import { play, say } from "../parts/calling/sounds";
import { store, useStored } from "../parts/calling/store";
import { thisScreen } from "../parts/calling/thisScreen";
import { useTicks } from "../parts/calling/useTicks";
import { useSession } from "../parts/said/useSession";

const HERE_EVERY = 5;
const LATE_MS = 60_000;
const BAKE = "/bake";

const called = store("");

/** What calls now, in words for the window's title; nothing where nothing does. */
export const useCalled = (): string => useStored(called);

/** What is due, told from wherever one is: by sound, voice, title, a bar, the machine's notices. */
export function Alarms({ rings }: { rings: boolean }) {
  const { data: session } = useSession();
  const baked = session?.state === "running" ? session : null;
  return (
    <div aria-live="assertive" className="sticky bottom-0 z-10 print:hidden">
      {baked && <Calling session={baked} rings={rings} />}
    </div>
  );
}

function Calling({ session, rings }: { session: BakingSession; rings: boolean }) {
  const { sound, voice } = useManner();
  // One that is muted is none to be chosen: the others ring.
  const now = useTicks(true, useHere(rings && (sound || voice)));
  const { pathname } = useLocation();
  const calls = callsOf(session, readTimers(localStorage.getItem(timersKeptAt(session.id))), now);
  useCalls(calls, useChosen() && rings);
  const first = calls[0];
  const words = first?.words ?? "";
  useEffect(() => {
    called.set(words);
    return () => called.set("");
  }, [words]);
  if (!first) return null;
  const late = now - first.since;
  const beside = calls.length - 1;
  return (
    <p
      data-calls=""
      className={
        pathname === BAKE
          ? "sr-only"
          : "flex flex-wrap items-center gap-x-4 gap-y-1 bg-yolk px-5 py-2 text-lg text-dark max-sm:px-3"
      }
    >
      <span className="min-w-0 break-words">
        Now: <strong>{first.words}</strong>
        {beside > 0 && ` and ${beside} more`}
      </span>
      {late > LATE_MS && <span aria-hidden="true">{countdown(late)} late</span>}
      <Link to={BAKE} className="press ml-auto min-h-11 bg-sheet text-ink">
        To Bake
      </Link>
    </p>
  );
}

/** Each call once: as it comes up, and what runs over with every minute. */
function useCalls(calls: readonly Call[], rings: boolean): void {
  const manner = useManner();
  const navigate = useNavigate();
  const told = useRef<ReadonlySet<string>>(new Set());
  const fresh = calls.find((call) => !told.current.has(call.key));
  useEffect(() => {
    // A window that was silent until now says what is still due once it may.
    if (!rings || !fresh) return;
    told.current = new Set(calls.map((call) => call.key));
    if (manner.sound) void play(fresh.sound);
    if (manner.voice) say(fresh.words);
    if (manner.notices && document.visibilityState === "hidden") {
      void notice(fresh.words, "Fine Batch", () => navigate(BAKE));
    }
  }, [fresh, calls, rings, manner, navigate]);
}

/** Say each five seconds that this screen is here, as long as it is one that can ring. */
function useHere(rings: boolean): () => void {
  const queries = useQueryClient();
  const ticks = useRef(0);
  return useCallback(() => {
    ticks.current += 1;
    if (rings && ticks.current % HERE_EVERY === 1)
      void queries.prefetchQuery(ringingQuery(thisScreen()));
  }, [queries, rings]);
}

/** Whether this screen is to ring: every one does until one is chosen, and while nobody answers. */
function useChosen(): boolean {
  const { data, isError } = useQuery({ ...ringingQuery(thisScreen()), enabled: false });
  return isError || !data || data.chosen === null || data.chosen === thisScreen().id;
}

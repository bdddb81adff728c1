import { QueryClient } from "@tanstack/react-query";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BakingSession } from "../../src/api/client";
import { askAgain } from "../../src/logic/askAgain";
import { serverNow, setClock } from "../../src/logic/clock";
import { forgetDough, lastDough, rememberDough } from "../../src/logic/lastDough";
import {
  currentSessionQuery,
  hearSession,
  planQuery,
  showPlan,
  showSession,
} from "../../src/logic/queries";

const NOON = new Date(2026, 9, 10, 12).getTime();

const session = (id: number, changed_at: number, state = "running") =>
  ({ id, changed_at, state, now: NOON }) as BakingSession;

describe("the session that is shown", () => {
  let queries: QueryClient;
  const shown = () => queries.getQueryData(currentSessionQuery.queryKey);
  beforeEach(() => {
    queries = new QueryClient();
  });

  it("is the newer of two answers, in whatever order they come", async () => {
    await showSession(queries, session(1, 20));
    await showSession(queries, session(1, 10));
    expect(shown()?.changed_at).toBe(20);
    await showSession(queries, session(1, 30));
    expect(shown()?.changed_at).toBe(30);
  });

  it("gives way to another session, whenever that was changed", async () => {
    await showSession(queries, session(1, 20));
    await showSession(queries, session(2, 5));
    expect(shown()?.id).toBe(2);
  });

  it("hears of one that is baked, and of its own end, but of no other that ended", async () => {
    hearSession(queries, session(1, 20, "finished"));
    await vi.waitFor(() => expect(queries.isFetching()).toBe(0));
    expect(shown()).toBeUndefined();
    hearSession(queries, session(1, 20));
    await vi.waitFor(() => expect(shown()?.id).toBe(1));
    hearSession(queries, session(1, 30, "finished"));
    await vi.waitFor(() => expect(shown()?.state).toBe("finished"));
    hearSession(queries, session(2, 40, "given_up"));
    await Promise.resolve();
    expect(shown()?.id).toBe(1);
  });

  it("is dropped from the plan when that is dropped", async () => {
    await showPlan(queries, session(3, 1, "planned"));
    expect(queries.getQueryData(planQuery.queryKey)?.id).toBe(3);
    await showPlan(queries, null);
    expect(queries.getQueryData(planQuery.queryKey)).toBeNull();
  });
});

it("asks anew for all that begins with a key, and for nothing else", async () => {
  const queries = new QueryClient();
  queries.setQueryData(["foresee", 1, "a"], 1);
  queries.setQueryData(["foresee", 2, "a"], 1);
  await askAgain(queries, ["foresee", 1]);
  const stale = (key: unknown[]) => queries.getQueryState(key)?.isInvalidated;
  expect([stale(["foresee", 1, "a"]), stale(["foresee", 2, "a"])]).toEqual([true, false]);
});

describe("the clock", () => {
  beforeEach(() => vi.useFakeTimers({ now: NOON }));
  afterEach(() => {
    setClock(Date.now());
    vi.useRealTimers();
  });

  it("goes by the server's time, whatever this device's own says", () => {
    setClock(NOON + 90_000);
    vi.advanceTimersByTime(1000);
    expect(serverNow()).toBe(NOON + 91_000);
  });
});

describe("the dough that was looked at last", () => {
  beforeEach(() => {
    const kept = new Map<string, string>();
    vi.stubGlobal("localStorage", {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
      removeItem: (key: string) => kept.delete(key),
    });
  });
  afterEach(() => vi.unstubAllGlobals());

  it("is the one in the address before the one that is remembered", () => {
    expect(lastDough("/larder")).toBeNull();
    rememberDough(4);
    expect([lastDough("/larder"), lastDough("/tray/9"), lastDough("/print/9")]).toEqual([4, 9, 4]);
    forgetDough();
    expect([lastDough("/larder"), lastDough("/dough/0")]).toEqual([null, null]);
  });
});

import { QueryClient } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { serverNow } from "../../../src/logic/clock";
import { aboutQuery, kitchenQuery } from "../../../src/logic/queries/kitchen";
import { drawerQuery, findQuery, todayQuery } from "../../../src/logic/queries/today";
import { VERDICTS } from "../../../src/logic/verdicts";

// The client's addresses begin with a slash, as in a page; it takes what a request is at first.
vi.hoisted(() => {
  const Plain = Request;
  globalThis.Request = class extends Plain {
    constructor(path: string, init?: RequestInit) {
      super(new URL(path, "http://127.0.0.1:8765"), init);
    }
  } as typeof Request;
});

const FROM_NOW = 3_600_000;
let asked: string[];

beforeEach(() => {
  asked = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const { pathname, search } = new URL(request.url);
    asked.push(pathname + search);
    return Response.json({ now: Date.now() + FROM_NOW });
  });
});

afterEach(() => vi.unstubAllGlobals());

test("what the first screen asks for", async () => {
  const queries = new QueryClient();
  await queries.fetchQuery(todayQuery);
  await queries.fetchQuery(drawerQuery("rye", 8));
  await queries.fetchQuery(findQuery("date & tahini"));
  await queries.fetchQuery(kitchenQuery);
  expect(asked).toEqual([
    "/api/today",
    "/api/drawer?search=rye&most=8",
    "/api/find?text=date%20%26%20tahini",
    "/api/kitchen",
  ]);
  expect(findQuery(" ").enabled).toBe(false);
});

test("what this is tells the server's clock, which a demo puts on", async () => {
  await new QueryClient().fetchQuery(aboutQuery);
  expect(Math.abs(serverNow() - Date.now() - FROM_NOW)).toBeLessThan(5000);
});

test("every verdict has words", () => {
  expect(VERDICTS.map(([key]) => key)).toEqual(["again", "change", "never"]);
});

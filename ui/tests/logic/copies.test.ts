import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, test, vi } from "vitest";
import { askAnew, copiesQuery, KEYS } from "../../src/logic/queries";

test("once another file is in the place of the one that was, nothing that is known holds", async () => {
  const queries = new QueryClient();
  const asked = vi.fn(async () => "what is there now");
  queries.setQueryData(["unseen"], "what was there");
  const shown = new QueryObserver(queries, { queryKey: ["shown"], queryFn: asked });
  const stop = shown.subscribe(() => undefined);
  await vi.waitFor(() => expect(shown.getCurrentResult().isSuccess).toBe(true));
  await askAnew(queries);
  expect(asked).toHaveBeenCalledTimes(2);
  expect(queries.getQueryData(["unseen"])).toBeUndefined();
  stop();
});

test("copies lie under a key of their own", () => {
  expect(copiesQuery.queryKey).toEqual(KEYS.copies);
});

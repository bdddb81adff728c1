import { QueryClient } from "@tanstack/react-query";
import { expect, test } from "vitest";
import {
  binQuery,
  cameBack,
  justThrownQuery,
  type Thrown,
  threwAway,
} from "../../../src/logic/queries/bin";

const THROWN: Thrown = { id: 3, kind: "dough", name: "Oat rounds", at: 0, until: 1, fault: null };

test("what was thrown away is shown until it is back, and the bin is asked for again", async () => {
  const queries = new QueryClient();
  queries.setQueryData(binQuery.queryKey, []);
  threwAway(queries, THROWN);
  expect(queries.getQueryData(justThrownQuery.queryKey)).toEqual(THROWN);
  expect(queries.getQueryState(binQuery.queryKey)?.isInvalidated).toBe(true);
  threwAway(queries, undefined);
  expect(queries.getQueryData(justThrownQuery.queryKey)).toBeNull();
  threwAway(queries, THROWN);
  await cameBack(queries);
  expect(queries.getQueryData(justThrownQuery.queryKey) ?? null).toBeNull();
});

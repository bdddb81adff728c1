import type { QueryClient, QueryKey } from "@tanstack/react-query";
import { describe, expect, it } from "vitest";
import { bringFirst, bringJobs, KEPT_AT_HAND } from "../../src/logic/queries";
import { job, session } from "./sessions";

/** A client that only notes what is asked for. */
function noting(): [QueryClient, QueryKey[]] {
  const asked: QueryKey[] = [];
  const prefetchQuery = async ({ queryKey }: { queryKey: QueryKey }) => {
    asked.push(queryKey);
  };
  return [{ prefetchQuery } as unknown as QueryClient, asked];
}

const isKept = (key: QueryKey) =>
  KEPT_AT_HAND.some((first) => first.every((part, n) => key[n] === part));

describe("what is fetched ahead of a network that drops", () => {
  it("is kept, all of it", () => {
    const [queries, asked] = noting();
    bringFirst(queries);
    expect(asked.length).toBeGreaterThan(5);
    expect(asked.filter((key) => !isKept(key))).toEqual([]);
  });

  it("is each dough in its pieces, and what is weighed in a job", () => {
    const [queries, asked] = noting();
    const doughs = [{ letter: "A" }, { letter: "B" }];
    const jobs = [
      job("mix", 0, 9, { may_be_weighed: true }),
      job("load", 9, 10, { may_be_weighed: false }),
    ];
    bringJobs(queries, session(jobs, { id: 7, doughs } as Parameters<typeof session>[1]));
    expect(asked.filter((key) => key.includes("A") || key.includes("B"))).toHaveLength(2);
    expect(asked.filter((key) => key.includes("A1.mix"))).toHaveLength(1);
    expect(asked).toHaveLength(4);
    expect(asked.filter((key) => !isKept(key))).toEqual([]);
  });
});

import { describe, expect, it } from "vitest";
import { ProblemError, type Schemas, type TraySetting } from "../../src/api/client";
import { DAY, daysLeft } from "../../src/logic/daysLeft";
import { date } from "../../src/logic/format";
import {
  aboutQuery,
  doughQuery,
  doughsQuery,
  foreseenQuery,
  isGone,
  kindOf,
  kindsQuery,
  kitchenQuery,
  pansQuery,
  sheetsQuery,
  studyQuery,
  versionQuery,
  versionsQuery,
  wordsQuery,
} from "../../src/logic/queries";

const setting = { oven_c: 180 } as TraySetting;

describe("what is asked of the server", () => {
  it("has a key of its own each, with all that the answer depends on", () => {
    const queries = [
      aboutQuery,
      kindsQuery,
      kitchenQuery,
      pansQuery,
      sheetsQuery,
      wordsQuery,
      doughsQuery("", 50),
      doughsQuery("oat", 50),
      doughQuery(1),
      doughQuery(2),
      versionsQuery(1),
      versionQuery(1, 2),
      foreseenQuery(1, setting),
      foreseenQuery(1, setting, ["less_sugar"]),
      foreseenQuery(1, { ...setting, oven_c: 170 }),
      studyQuery(undefined, setting, 1),
    ];
    const keys = queries.map((query) => JSON.stringify(query.queryKey));
    expect(new Set(keys).size).toBe(keys.length);
  });

  it("is not asked where there is nothing to ask about", () => {
    expect([doughQuery(null).enabled, doughQuery(1).enabled]).toEqual([false, true]);
    expect(studyQuery(undefined, setting, null).enabled).toBe(false);
    expect(versionQuery(1, undefined).enabled).toBe(false);
    expect(foreseenQuery(1, setting, [], false).enabled).toBe(false);
  });

  it("that is gone is told from what went wrong", () => {
    expect(isGone(new ProblemError("gone", 404, []))).toBe(true);
    expect(isGone(new ProblemError("wrong", 422, []))).toBe(false);
    expect(isGone(new Error("cut off"))).toBe(false);
    expect(isGone(null)).toBe(false);
  });
});

it("finds a kind by its name, once they are there", () => {
  const kinds = [{ kind: "drop" }, { kind: "pan" }] as Schemas["KindShown"][];
  expect(kindOf(kinds, "pan")).toBe(kinds[1]);
  expect(kindOf(kinds, "none")).toBeUndefined();
  expect(kindOf(undefined, "pan")).toBeUndefined();
});

it("tells how long something in the cold is good for", () => {
  const use_by = new Date(2026, 9, 10, 12).getTime();
  const left = (days: number) => daysLeft({ use_by } as Schemas["ColdOut"], use_by - days * DAY);
  expect(left(-0.1)).toBe(`past its day since ${date(use_by)}`);
  expect(left(0.9)).toBe("use it today");
  expect(left(1.5)).toContain("1 day left");
  expect(left(3)).toContain("3 days left");
});

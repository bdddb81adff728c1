import { describe, expect, it } from "vitest";
import {
  type BakingSession,
  type CardBody,
  type Kitchen,
  ProblemError,
  type Schemas,
  type TraySetting,
} from "../../src/api/client";
import { DAY, daysLeft } from "../../src/logic/daysLeft";
import { date } from "../../src/logic/format";
import {
  aboutQuery,
  bakedSessionQuery,
  bakesQuery,
  bookWordsQuery,
  chillQuery,
  coldQuery,
  compareQuery,
  currentSessionQuery,
  devicesQuery,
  diagnosisQuery,
  doughNamesQuery,
  doughQuery,
  drawerPagesQuery,
  effectsQuery,
  foreseenQuery,
  ideasQuery,
  isGone,
  KEYS,
  kindOf,
  kindsQuery,
  kitchenQuery,
  knownQuery,
  labelsQuery,
  ladderQuery,
  larderQuery,
  lessonsQuery,
  otherPansQuery,
  pansQuery,
  planQuery,
  readQuery,
  recordsQuery,
  restsOnDough,
  scalingQuery,
  sheetCheckQuery,
  sheetsQuery,
  shelfQuery,
  studyQuery,
  swapsQuery,
  TOLD,
  triedQuery,
  versionQuery,
  versionsQuery,
  watchQuery,
  weighingQuery,
  wireQuery,
  wordsQuery,
} from "../../src/logic/queries";

const setting = { oven_c: 180 } as TraySetting;
const card = { name: "Oat rounds" } as CardBody;
const kitchen = { fridge_c: 4 } as Kitchen;
const plan = { id: 1, start_at: 0, finish_at: 10, searching: false } as BakingSession;
const shelf = { key: "oats", doughs: 2 } as Schemas["ShelfOut"];
const facts = { name: "oats" } as Schemas["FactsBody"];

describe("what is asked of the server", () => {
  it("has a key of its own each, with all that the answer depends on", () => {
    const queries = [
      aboutQuery,
      kindsQuery,
      kitchenQuery,
      pansQuery,
      sheetsQuery,
      wordsQuery,
      drawerPagesQuery({ search: "", order: "changed", label: "" }),
      drawerPagesQuery({ search: "oat", order: "changed", label: "" }),
      doughNamesQuery,
      labelsQuery,
      doughQuery(1),
      doughQuery(2),
      versionsQuery(1),
      versionQuery(1, 2),
      foreseenQuery(1, setting),
      foreseenQuery(1, setting, ["less_sugar"]),
      foreseenQuery(1, { ...setting, oven_c: 170 }),
      studyQuery(undefined, setting, 1),
      studyQuery(card, setting, 1),
      compareQuery(card, undefined, setting, 1),
      readQuery("2 eggs"),
      scalingQuery(card, { factor: "2", have: [], rounded: false }, true),
      swapsQuery(card, setting, 1),
      larderQuery,
      effectsQuery(shelf, facts),
      ladderQuery(1, setting, []),
      chillQuery(1, setting, kitchen, "fridge", 23),
      chillQuery(1, setting, kitchen, "freezer", 23),
      chillQuery(1, setting, { ...kitchen, fridge_c: 6 }, "fridge", 23),
      sheetCheckQuery(undefined, true),
      otherPansQuery({ kind: "pan" } as Parameters<typeof otherPansQuery>[0]),
      knownQuery(),
      knownQuery(1.2, true),
      currentSessionQuery,
      bakedSessionQuery(1, 4),
      weighingQuery(4, "A.mix", true),
      planQuery,
      shelfQuery(plan),
      ideasQuery(plan),
      triedQuery(plan, 1, true),
      ideasQuery({ ...plan, finish_at: 20 }),
      bakesQuery(null),
      bakesQuery(1),
      bookWordsQuery,
      lessonsQuery,
      diagnosisQuery(1, "spread", null),
      coldQuery,
      devicesQuery,
      watchQuery(180, true),
      recordsQuery,
      wireQuery,
      TOLD.scale,
      TOLD.oven,
    ];
    const keys = queries.map((query) => JSON.stringify(query.queryKey));
    expect(new Set(keys).size).toBe(keys.length);
  });

  it("is not asked where there is nothing to ask about", () => {
    expect([doughQuery(null).enabled, doughQuery(1).enabled]).toEqual([false, true]);
    expect(studyQuery(undefined, setting, null).enabled).toBe(false);
    expect(versionQuery(1, undefined).enabled).toBe(false);
    expect(foreseenQuery(1, setting, [], false).enabled).toBe(false);
    expect(compareQuery(card, undefined, setting, 1).enabled).toBe(false);
    expect(readQuery("  ").enabled).toBe(false);
    expect(diagnosisQuery(1, null, null).enabled).toBe(false);
    expect(effectsQuery({ ...shelf, doughs: 0 }, facts).enabled).toBe(false);
    expect(ideasQuery({ ...plan, searching: true }).enabled).toBe(false);
    expect([wireQuery.enabled, TOLD.scale.enabled, TOLD.oven.enabled]).toEqual([
      false,
      false,
      false,
    ]);
  });

  it("that is gone is told from what went wrong", () => {
    expect(isGone(new ProblemError("gone", 404, []))).toBe(true);
    expect(isGone(new ProblemError("wrong", 422, []))).toBe(false);
    expect(isGone(new Error("cut off"))).toBe(false);
    expect(isGone(null)).toBe(false);
  });
});

it("is asked again, where a dough is changed, for what rests on that dough alone", () => {
  const own = [versionsQuery(7), foreseenQuery(7, setting), ladderQuery(7, setting, [])];
  for (const query of own) {
    const begins = (key: readonly unknown[]) => key.every((part, n) => query.queryKey[n] === part);
    expect(restsOnDough(7).filter(begins)).toHaveLength(1);
    expect(restsOnDough(8).filter(begins)).toHaveLength(0);
  }
});

it("has no two beginnings that stand for the same", () => {
  const keys = Object.values(KEYS).map((key) => key.join(" "));
  expect(new Set(keys).size).toBe(keys.length);
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

import { describe, expect, it } from "vitest";
import { Axis, layDay, roundTimes, rowsOf, shelfName } from "../../src/logic/day";
import { job, MINUTE, oneTray, session } from "./sessions";

describe("the places of a day", () => {
  it("stand below each other and none in another", () => {
    const two = session(
      [...oneTray(0), ...oneTray(20, "A2"), job("chill", 0, 60, { tray: null })],
      {
        ovens: [2],
        workers: ["you", "Kim"],
      },
    );
    const rows = [...layDay(two).rows.values()];
    expect(rows.map((row) => row.label)).toEqual([
      "Hands",
      "Kim",
      "Cold",
      "Bench, sheet 1",
      "Bench, sheet 2",
      "Oven, upper",
      "Oven, lower",
      "Rack",
    ]);
    rows.reduce((above, row) => {
      expect(row.top).toBeGreaterThanOrEqual(above.top + above.height);
      return row;
    });
    expect(layDay(two).height).toBeGreaterThan(rows.at(-1)?.top ?? 0);
  });

  it("have a row for each that a job stands in", () => {
    const all = [...oneTray(0), job("bake", 50, 60, { to_shelf: 2 })];
    const { rows } = layDay(session(all, { ovens: [2] }));
    for (const a of all) for (const row of rowsOf(a)) expect(rows.has(row), row).toBe(true);
    expect(rowsOf(job("bake", 0, 9, { oven: 2, shelf: 1, to_shelf: 2 }))).toEqual([
      "oven2shelf1",
      "oven2shelf2",
    ]);
  });

  it("give trays that cool at once lanes of their own, and a lane again once it is free", () => {
    const cools = [0, 5, 40].map((at, n) => job("cool", at, at + 20, { tray: `A${n + 1}` }));
    const { lanes } = layDay(session(cools));
    expect(["A1", "A2", "A3"].map((tray) => lanes.get(`rack ${tray}`))).toEqual([0, 1, 0]);
  });

  it("give each time in the cold its own lane, of one dough as of several", () => {
    const cold = [
      job("chill", 0, 60, { tray: null, dough: "A" }),
      job("chill", 30, 90, { tray: null, dough: "B" }),
      job("chill", 70, 120, { tray: null, dough: "A", round: 1 }),
    ];
    const { lanes } = layDay(session(cold));
    expect(cold.map((a) => lanes.get(`cold ${a.key}`))).toEqual([0, 1, 0]);
  });

  it("name the shelves from above", () => {
    expect(shelfName(1, 1)).toBe("Oven");
    expect([1, 2, 3].map((n) => shelfName(n, 3, 2))).toEqual([
      "Oven 2, upper",
      "Oven 2, shelf 2",
      "Oven 2, lower",
    ]);
  });
});

describe("the axis of time", () => {
  const axisOf = (activities = oneTray(0)) => {
    const shown = session(activities);
    return new Axis(shown, layDay(shown), 100, 700);
  };

  it("begins at the left, ends at the right, and leads back", () => {
    const axis = axisOf();
    expect(axis.x(0)).toBe(100);
    expect(axis.x(43 * MINUTE)).toBeCloseTo(800);
    for (const minute of [3, 17, 29])
      expect(axis.at(axis.x(minute * MINUTE))).toBeCloseTo(minute * MINUTE);
  });

  it("draws a night short", () => {
    const axis = axisOf([...oneTray(0), ...oneTray(12 * 60, "A2")]);
    const broken = axis.stretches.filter((stretch) => stretch.broken);
    expect(broken).toHaveLength(1);
    expect(broken[0]?.width).toBeLessThanOrEqual(58);
    expect(axis.stretches.reduce((sum, stretch) => sum + stretch.width, 0)).toBeCloseTo(700);
    expect(axis.x((12 * 60 + 5) * MINUTE)).toBeLessThan(axis.x((12 * 60 + 20) * MINUTE));
  });

  it("marks round times far enough apart for their words", () => {
    const axis = axisOf();
    const at = axis.marks().map((ms) => axis.x(ms));
    expect(at.length).toBeGreaterThan(1);
    for (const [n, x] of at.slice(1).entries()) expect(x - (at[n] ?? 0)).toBeGreaterThanOrEqual(78);
  });

  it("has no mark where there is no round time", () => {
    expect(roundTimes(MINUTE, 4 * MINUTE, 5 * MINUTE)).toEqual([]);
    expect(roundTimes(4 * MINUTE, 16 * MINUTE, 5 * MINUTE)).toEqual(
      [5, 10, 15].map((m) => m * MINUTE),
    );
  });
});

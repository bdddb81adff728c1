import { describe, expect, it } from "vitest";
import type { BakingSession, Kitchen } from "../../src/api/client";
import { felt, leaveOut, notYet, OVEN_SLOW, WAITS_MIN } from "../../src/logic/events";
import { CAUSE, howGood, inTime, plural, tooLate } from "../../src/logic/planWords";
import { joinedBy, nextQuarter, wishOf } from "../../src/logic/wish";
import { job, MINUTE, session } from "./sessions";

describe("what a baker says with one press", () => {
  const tray = [job("load", 5, 6), job("bake", 6, 18), job("out", 18, 19), job("rack", 22, 23)];

  it("is two minutes more of the bake, as its tray is to come out", () => {
    const baking = session(tray);
    expect(tray.map((one) => notYet(one, baking)?.activity)).toEqual([
      undefined,
      undefined,
      "A1.bake",
      undefined,
    ]);
    expect(notYet(job("out", 18, 19), baking)).toMatchObject({ kind: "more", minutes: 2 });
    expect(OVEN_SLOW).toMatchObject({ kind: "slow", minutes: 5 });
  });

  it("leaves out what may be, and says how a dough feels that may be felt", () => {
    const turn = job("turn", 12, 13, { may_be_left_out: true });
    expect(leaveOut(turn)).toEqual({ kind: "skip", activity: turn.key });
    expect(leaveOut(job("load", 5, 6))).toBeNull();
    const portion = job("portion", 0, 5, { may_be_felt: true });
    expect(felt(portion, "soft")).toMatchObject({ what: "soft", minutes: WAITS_MIN.soft });
    expect(felt(portion, "right")).toMatchObject({ what: "right", minutes: null });
    expect(felt(job("portion", 0, 5), "hard")).toBeNull();
  });
});

describe("a wish", () => {
  const kitchen = { sheets: 3, shelves: 2 } as Kitchen;

  it("takes what the kitchen has now, and keeps what was asked", () => {
    const none = wishOf(null, kitchen);
    expect(none).toMatchObject({ items: [], pins: [], sheets: 3, shelves: 2 });
    const plan = { wish: { ...none, sheets: 1, ready_by: 7 } } as BakingSession;
    expect(wishOf(plan, kitchen)).toMatchObject({ sheets: 3, ready_by: 7 });
  });

  it("is joined by a dough once", () => {
    const none = wishOf(null, kitchen);
    const joined = joinedBy(4, { ...none, pins: [{ job: "A.mix", start_at: 0 }] });
    expect(joined).toMatchObject({ items: [{ dough_id: 4, joins: "fresh" }] });
    expect(joined && joinedBy(4, joined)).toBeNull();
    expect(joinedBy(null, none)).toBeNull();
  });

  it("is ready at a quarter of an hour, in five minutes at the earliest", () => {
    const noon = new Date(2026, 9, 10, 12).getTime();
    const ready = (minutes: number) => (nextQuarter(noon + minutes * MINUTE) - noon) / MINUTE;
    expect([ready(0), ready(10), ready(11), ready(-5)]).toEqual([15, 15, 30, 0]);
  });
});

describe("what is said of a plan", () => {
  const noon = new Date(2026, 9, 10, 12).getTime();
  const plan = (more: Partial<BakingSession>): BakingSession =>
    ({
      now: noon,
      start_at: noon,
      finish_at: noon + 90 * MINUTE,
      ready_by: null,
      gap_min: 8,
      hold_ups: [],
      ...more,
    }) as BakingSession;

  it("is how far from the best it can be", () => {
    expect(howGood(plan({}))).toBe("At most 8 min from the best possible.");
    const early = plan({ ready_by: noon + 100 * MINUTE });
    expect(howGood(early)).toBe("At most 8 min from the latest possible start.");
    expect(inTime(early)).toBe(true);
    expect(inTime(plan({ ready_by: noon + 80 * MINUTE }))).toBe(false);
    expect(howGood(plan({ gap_min: 150 }))).toContain("Nobody can be ready before");
  });

  it("is which demands clash, the longest first", () => {
    const late = plan({
      ready_by: noon + 60 * MINUTE,
      hold_ups: [
        { cause: "oven", minutes: 20, trays: [] },
        { cause: "cooling", minutes: 40, trays: [] },
        { cause: "hands", minutes: 5, trays: [] },
      ] as BakingSession["hold_ups"],
    });
    const said = tooLate(late, 30);
    expect(said).toContain("even begun now it is ready 30 min after");
    expect(said).toContain(`(most of it ${CAUSE.cooling} 40 min and ${CAUSE.oven} 20 min)`);
    expect(said).toContain("it takes 1 h 30");
    expect(said).toContain("there are 1 h");
    expect(tooLate(plan({ ready_by: noon - MINUTE }), 91)).toContain("that time has passed");
  });

  it("counts by its first word", () => {
    expect([plural("bake", 1), plural("dough that you felt", 2)]).toEqual([
      "bake",
      "doughs that you felt",
    ]);
  });
});

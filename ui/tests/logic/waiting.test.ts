import { describe, expect, it } from "vitest";
import type { BakeEvent } from "../../src/logic/events";
import {
  alongWith,
  readWaiting,
  saidInWords,
  stillWaiting,
  takenBackBy,
  type Waiting,
  waitedMs,
  withWaiting,
} from "../../src/logic/waiting";
import { MINUTE, oneTray, session } from "./sessions";

const jobs = oneTray(0).map((one) => ({ ...one, ticked: [] }));
const baked = session(jobs, { id: 1, can_undo: false, happened: 4 });
const find = (kind: string, so = baked) => so.activities.find((one) => one.kind === kind);

function waits(what: Partial<BakeEvent> | "undo", at = 0, late: string | null = null): Waiting {
  const whole = what === "undo" ? what : ({ activity: "", ...what } as BakeEvent);
  return { key: `${at}`, session: baked.id, what: whole, words: "", at, tried: false, late };
}

const done = (kind: string, at: number): Waiting =>
  waits({ kind: "done", activity: find(kind)?.key ?? "" }, at);

describe("a session with what waits to be heard", () => {
  it("is itself where nothing does, or what does is of another one", () => {
    expect(withWaiting(baked, [], 0)).toBe(baked);
    expect(withWaiting(baked, [{ ...done("load", 1), session: 99 }], 0)).toBe(baked);
    expect(withWaiting(baked, [waits({ kind: "slow" }, 1, "too late")], 0)).toBe(baked);
  });

  it("has a tray in the oven that comes out as long after as was planned", () => {
    const so = withWaiting(baked, [done("load", 20 * MINUTE)], 3 * MINUTE);
    expect(find("load", so)?.done_at).toBe(23 * MINUTE);
    const planned = (find("out")?.start_at ?? 0) - (find("bake")?.start_at ?? 0);
    expect(find("out", so)?.due_at).toBe(23 * MINUTE + planned);
    expect(so.happened).toBe(5);
    expect(so.can_undo).toBe(true);
    expect(find("load")?.done_at).toBeNull();
  });

  it("gives a tray its minutes more, and ticks and unticks a step", () => {
    const more = waits({ kind: "more", activity: find("bake")?.key ?? "", minutes: 3 });
    const so = withWaiting(baked, [more], 0);
    expect(find("out", so)?.due_at).toBe((find("out")?.due_at ?? 0) + 3 * MINUTE);
    const tick = waits({ kind: "ticked", activity: find("portion")?.key ?? "", what: "1" });
    expect(find("portion", withWaiting(baked, [tick], 0))?.ticked).toEqual([1]);
    expect(find("portion", withWaiting(baked, [tick, tick], 0))?.ticked).toEqual([]);
  });

  it("weighs on from what was weighed", () => {
    const flour = { key: "flour", name: "flour", target_g: 300, weighed_g: 100, more_g: 200 };
    const portions = { weighed_g: [20], target_g: 21, mean_g: 20, cv: null, off: [] };
    const along = { activity: "A.mix", ingredients: [flour], portions } as never;
    const weighed = (grams: number, what?: string) =>
      waits({ kind: "weighed", activity: "A.mix", grams, ...(what ? { what } : {}) });
    const so = alongWith(along, [weighed(180, "flour"), weighed(22)], baked.id);
    expect(so.ingredients).toEqual([{ ...flour, weighed_g: 180, more_g: 120 }]);
    expect(so.portions?.weighed_g).toEqual([20, 22]);
    expect(alongWith(along, [done("load", 1)], baked.id)).toBe(along);
  });

  it("is without what was taken back", () => {
    const so = withWaiting(baked, [done("portion", 1), done("load", 2), waits("undo", 3)], 0);
    expect(find("portion", so)?.done_at).toBe(1);
    expect(find("load", so)?.done_at).toBeNull();
    expect(find("portion", withWaiting(baked, [waits("undo")], 0))?.done_at).toBeNull();
  });
});

describe("what waits", () => {
  it("is taken back by the one that ends it, and by no other", () => {
    const all = [
      waits({ kind: "slow" }, 1),
      waits({ kind: "away" }, 2),
      waits("undo", 3),
      { ...waits("undo", 4), session: 99 },
      waits("undo", 5),
    ];
    const [slow, away] = all as [Waiting, Waiting];
    expect(takenBackBy(all, away)?.at).toBe(3);
    expect(takenBackBy(all, slow)?.at).toBe(5);
    expect(takenBackBy(all.slice(0, 2), slow)).toBeUndefined();
  });

  it("knows how long, as far as a clock may go", () => {
    expect(waitedMs(waits("undo", 1_000), 61_000.4)).toBe(60_000);
    expect(waitedMs(waits("undo", 61_000), 1_000)).toBe(0);
    expect(waitedMs(waits("undo", 0), 1e12)).toBe(24 * 60 * MINUTE);
  });

  it("is read from where a browser kept it, and nothing else is", () => {
    const kept = [done("load", 7), waits("undo", 8, "too late")];
    expect(readWaiting(JSON.stringify(kept))).toEqual(kept);
    expect(stillWaiting(kept)).toEqual(kept.slice(0, 1));
    for (const wrong of [null, "{", "7", "{}", "[null, 7, {}]", '[{"key": "x", "what": {}}]'])
      expect(readWaiting(wrong)).toEqual([]);
  });

  it("is said in words", () => {
    const words = (what: Partial<BakeEvent>) => saidInWords(baked, what as BakeEvent);
    expect(words({ kind: "away", activity: "", minutes: 20 })).toBe("away for 20 min");
    expect(words({ kind: "slow", activity: "", minutes: 5 })).toContain("slow");
    expect(words({ kind: "dropped", activity: "A1" })).toBe("dropped: tray A1");
    expect(words({ kind: "closed", activity: "" })).toContain("closed");
    expect(words({ kind: "more", activity: find("bake")?.key ?? "", minutes: 2 })).toBe(
      "2 min more: tray A1",
    );
    const kinds = ["done", "skip", "felt", "ticked", "weighed", "scaled"] as const;
    const said = kinds.map((kind) => words({ kind, activity: find("load")?.key ?? "" }));
    expect(new Set(said).size).toBe(5);
    expect(saidInWords(baked, "undo")).toContain("back");
  });
});

import { describe, expect, it } from "vitest";
import { closed, inOven, isJob, jobNow, pendingJobs, stepOf, wordsOf } from "../../src/logic/jobs";
import { job, MINUTE, oneTray, session } from "./sessions";

describe("what there is to do", () => {
  it("is done by hands or at the dial, in the order in which it is due, the dial first", () => {
    const heat = job("heat", 30, 50, { tray: null, hands: false });
    const mix = job("mix", 30, 40, { tray: null });
    const early = job("portion", 10, 15);
    const bake = job("bake", 0, 9);
    expect([heat, mix, bake].map(isJob)).toEqual([true, true, false]);
    expect(pendingJobs(session([mix, heat, bake, early]))).toEqual([early, heat, mix]);
  });

  it("leaves out what is done", () => {
    const done = job("mix", 0, 10, { done_at: 10 * MINUTE });
    const open = job("portion", 12, 17);
    expect(pendingJobs(session([done, open]))).toEqual([open]);
  });

  it("puts what cannot wait first once it is due", () => {
    const portion = job("portion", 10, 15, { tray: "A2" });
    const out = job("out", 12, 13);
    const both = session([portion, out]);
    expect(jobNow(both, 9 * MINUTE)).toBe(portion);
    expect(jobNow(both, 12 * MINUTE)).toBe(out);
    expect(jobNow(both, 12 * MINUTE - 14_000)).toBe(out);
    expect(jobNow(both, 12 * MINUTE - 16_000)).toBe(portion);
  });

  it("does not load a tray into a full oven", () => {
    const first = oneTray(0).map((a) => (a.kind === "load" ? { ...a, done_at: 6 * MINUTE } : a));
    const inside = first.filter((a) => a.kind !== "portion");
    const load = job("load", 7, 8, { tray: "A2" });
    expect(jobNow(session([...inside, load]), 7 * MINUTE)?.kind).toBe("turn");
    expect(jobNow(session([...inside, load], { ovens: [2] }), 7 * MINUTE)).toBe(load);
  });

  it("is nothing when all is done", () => {
    expect(jobNow(session([job("mix", 0, 9, { done_at: 9 })]), 0)).toBeUndefined();
  });
});

describe("what is in the oven", () => {
  it("is a tray from when it is loaded until it is out, with its turn and its end", () => {
    const tray = oneTray(0);
    const done = (kinds: string[]) =>
      session(tray.map((a) => (kinds.includes(a.kind) ? { ...a, done_at: a.end_at } : a)));
    expect(inOven(done([]))).toEqual([]);
    const [inside] = inOven(done(["portion", "load"]));
    expect(inside?.tray).toBe("A1");
    expect(inside?.loadedAt).toBe(6 * MINUTE);
    expect(inside?.turn?.kind).toBe("turn");
    expect(inside?.out.kind).toBe("out");
    expect(inOven(done(["portion", "load", "out"]))).toEqual([]);
  });

  it("knows the first bake of a tray from its second", () => {
    const first = job("load", 0, 1, { done_at: MINUTE });
    const second = job("load", 40, 41, { round: 1 });
    const bake = job("bake", 41, 50, { round: 1 });
    const both = session([first, second, bake]);
    expect(stepOf(both, bake, "load")).toBe(second);
    expect(stepOf(both, bake, "turn")).toBeUndefined();
  });
});

it("has words for a job that none were made for", () => {
  expect(wordsOf(job("bake", 0, 1)).title).toBe("");
  const said = {
    short: "mix",
    title: "Mix",
    detail: "",
    cue: "",
    caution: null,
    colour_from: null,
    colour_to: null,
    steps: [],
  };
  expect(wordsOf(job("mix", 0, 1, { said }))).toBe(said);
  expect(["Wrap; ", "Chill it."].map((text) => closed({ text }))).toEqual(["Wrap", "Chill it"]);
});

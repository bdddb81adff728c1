import { describe, expect, it } from "vitest";
import { NO_TIMERS, readTimers, stepKey, stopped, timed } from "../../src/logic/timers";

const KEY = stepKey("A.mix", 1);

describe("timers of a job's steps", () => {
  it("are set and taken off", () => {
    const running = timed(NO_TIMERS, KEY, 5000);
    expect(running[KEY]).toBe(5000);
    expect(stopped(running, KEY)).toEqual(NO_TIMERS);
    expect(timed(running, KEY, 9000)).toEqual(NO_TIMERS);
  });

  it("run several at once, each stopped by itself", () => {
    const two = timed(timed(NO_TIMERS, KEY, 5000), stepKey("A.mix", 2), 9000);
    expect(Object.keys(two)).toHaveLength(2);
    expect(timed(two, KEY, 1)).toEqual({ [stepKey("A.mix", 2)]: 9000 });
  });

  it("are read as they were kept, and nothing from what is no such thing", () => {
    const timers = timed(NO_TIMERS, KEY, 7);
    expect(readTimers(JSON.stringify({ timers }))).toEqual(timers);
    for (const kept of [null, "", "{", "7", "null", "{}"])
      expect(readTimers(kept)).toEqual(NO_TIMERS);
  });
});

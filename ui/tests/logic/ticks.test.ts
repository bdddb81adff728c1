import { describe, expect, it } from "vitest";
import { NO_TICKS, readTicks, stepKey, ticked, timed } from "../../src/logic/ticks";

const KEY = stepKey("A.mix", 1);

describe("ticks of a job's steps", () => {
  it("are put and taken off, and a tick ends its timer", () => {
    const running = timed(NO_TICKS, KEY, 5000);
    expect(running.timers[KEY]).toBe(5000);
    const done = ticked(running, KEY);
    expect(done).toEqual({ done: { [KEY]: true }, timers: {} });
    expect(ticked(done, KEY)).toEqual(NO_TICKS);
  });

  it("let several timers run, each stopped by itself", () => {
    const two = timed(timed(NO_TICKS, KEY, 5000), stepKey("A.mix", 2), 9000);
    expect(Object.keys(two.timers)).toHaveLength(2);
    expect(timed(two, KEY, 1).timers).toEqual({ [stepKey("A.mix", 2)]: 9000 });
  });

  it("are read as they were kept, and nothing from what is no such thing", () => {
    expect(readTicks(JSON.stringify(timed(NO_TICKS, KEY, 7)))).toEqual(timed(NO_TICKS, KEY, 7));
    for (const kept of [null, "", "{", "7", "null"]) expect(readTicks(kept)).toEqual(NO_TICKS);
  });
});

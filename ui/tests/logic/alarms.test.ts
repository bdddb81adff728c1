import { describe, expect, it } from "vitest";
import { callsOf } from "../../src/logic/alarms";
import type { Said } from "../../src/logic/jobs";
import { namesApart, screenName } from "../../src/logic/screenName";
import { NO_TIMERS, stepKey } from "../../src/logic/timers";
import { job, MINUTE, session } from "./sessions";

const step = (text: string) =>
  ({ text, hands_min: 0, wait_min: 10, cue: "", origin: "card" }) as Said["steps"][number];
const said = (title: string, steps: string[] = []) => ({
  short: title,
  title,
  detail: "",
  cue: "",
  caution: null,
  colour_from: null,
  colour_to: null,
  steps: steps.map(step),
});

describe("what calls", () => {
  const mix = job("mix", 10, 20, { tray: null, said: said("Mix", ["Let it rest"]) });
  const out = job("out", 12, 13, { hot: true, said: said("Take A1 out") });
  const other = job("out", 12, 13, { hot: true, tray: "A2", said: said("Take A2 out") });
  const words = (minute: number, timers = NO_TIMERS) =>
    callsOf(session([mix, out, other], { ovens: [2] }), timers, minute * MINUTE).map(
      (call) => `${call.sound}: ${call.words}`,
    );

  it("is the job that is due, and every hot one before it", () => {
    expect(words(9)).toEqual([]);
    expect(words(10)).toEqual(["hands: Mix"]);
    expect(words(12)).toEqual(["hot: Take A1 out", "hot: Take A2 out"]);
  });

  it("calls again with each minute that a hot one runs over", () => {
    const at = (minute: number) => callsOf(session([out]), NO_TIMERS, minute * MINUTE)[0];
    expect(at(13)?.sound).toBe("over");
    expect(at(13.5)?.key).toBe(at(13)?.key);
    expect(at(14)?.key).not.toBe(at(13)?.key);
  });

  it("is a timer that is up, for five minutes", () => {
    const timers = { [stepKey(mix.key, 0)]: 5 * MINUTE };
    expect(words(4.9, timers)).toEqual([]);
    expect(words(5, timers)).toEqual(["timer: Time is up: Let it rest"]);
    expect(words(9.9, timers)).toEqual(["timer: Time is up: Let it rest"]);
    expect(words(10.5, timers)).toEqual(["hands: Mix"]);
  });
});

describe("a screen's name", () => {
  it("goes by its size and how it is pressed; two of a kind are told apart", () => {
    expect([screenName(390, true), screenName(820, true), screenName(800, false)]).toEqual([
      "Phone",
      "Tablet",
      "Desk",
    ]);
    const screens = ["Desk", "Phone", "Desk"].map((name, n) => ({ id: `${n}`, name }));
    expect(namesApart(screens).map(([, name]) => name)).toEqual(["Desk", "Phone", "Desk 2"]);
  });
});

import { describe, expect, it } from "vitest";
import {
  eggsWords,
  keepsWords,
  movedHours,
  nextSaturday,
  readTimes,
  timesWords,
  usualHours,
} from "../../src/logic/occasion";

const at = (day: number, hour: number, minute = 0) =>
  new Date(2026, 10, day, hour, minute).getTime();
const NOW = at(26, 12); // a Thursday

describe("the hours of an occasion", () => {
  it("is next Saturday at three, never today", () => {
    expect(nextSaturday(NOW)).toBe(at(28, 15));
    expect(nextSaturday(at(28, 9))).toBe(at(35, 15));
  });

  it("begins the evening before, and goes on from the morning", () => {
    expect(usualHours(at(28, 15), NOW)).toEqual([
      { from_at: at(27, 18), to_at: at(27, 22) },
      { from_at: at(28, 8), to_at: at(28, 15) },
    ]);
  });

  it("has the two evenings before a morning's occasion", () => {
    expect(usualHours(at(28, 9), NOW).map((span) => span.from_at)).toEqual([
      at(26, 18),
      at(27, 18),
    ]);
  });

  it("leaves out what is over, and begins no sooner than now", () => {
    expect(usualHours(at(26, 20), NOW)).toEqual([{ from_at: NOW, to_at: at(26, 20) }]);
  });

  it("goes along when the occasion is moved", () => {
    const hours = usualHours(at(28, 15), NOW);
    expect(movedHours(hours, at(28, 15), at(29, 16))).toEqual([
      { from_at: at(28, 18), to_at: at(28, 22) },
      { from_at: at(29, 8), to_at: at(29, 16) },
    ]);
  });
});

describe("how many times over", () => {
  it.each([
    [0.5, "½"],
    [1.5, "1½"],
    [2, "2"],
    [2.4, "2.4"],
    [2 / 3, "⅔"],
    [0.999, "1"],
  ])("%d is said as %s", (times, said) => expect(timesWords(times)).toBe(said));

  it.each([
    ["½", 0.5],
    ["1½", 1.5],
    ["1/2", 0.5],
    ["1 1/2", 1.5],
    ["0,5", 0.5],
    ["× 2", 2],
    ["2x", 2],
    ["half", Number.NaN],
    ["", Number.NaN],
    ["1/2 ½", Number.NaN],
  ])("%s is read as %d", (text, times) => expect(readTimes(text)).toBe(times));
});

it("counts eggs, or what of them there is", () => {
  expect(eggsWords(3, "egg")).toBe("3 eggs");
  expect(eggsWords(1, "white")).toBe("1 egg white");
  expect(eggsWords(2.5, "yolk")).toBe("2½ egg yolks");
});

it("says how long something keeps", () => {
  expect(keepsWords(3, 5)).toBe("3 to 5 days");
  expect(keepsWords(2, 2)).toBe("2 days");
});

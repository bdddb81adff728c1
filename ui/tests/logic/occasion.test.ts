import { describe, expect, it } from "vitest";
import {
  alike,
  eggsWords,
  keepsWords,
  money,
  movedHours,
  nextSaturday,
  nextTime,
  packsWords,
  readTimes,
  shoppingList,
  timesWords,
  tomorrow,
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

  it("may be tomorrow morning", () => expect(tomorrow(NOW)).toBe(at(27, 8)));

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

describe("what is bought", () => {
  const mass = (grams: number) => `${grams} g`;

  it("is told in packs where they are known", () => {
    expect(packsWords({ buy_g: 700, packs: 2, pack_g: 500 }, mass)).toBe("2 packs of 500 g");
    expect(packsWords({ buy_g: 70, packs: 1, pack_g: 500 }, mass)).toBe("1 pack of 500 g");
    expect(packsWords({ buy_g: 70, packs: null, pack_g: null }, mass)).toBe("70 g");
  });

  it("is a list of lines for whoever goes shopping, without what is there", () => {
    const needed = [
      { name: "Rye flour", buy_g: 700, packs: 2, pack_g: 500 },
      { name: "Salt", buy_g: 0, packs: null, pack_g: null },
      { name: "Dates", buy_g: 120, packs: null, pack_g: null },
    ];
    expect(shoppingList("The supper", needed, (grams) => `${grams} g`)).toBe(
      "To buy for The supper\nRye flour: 2 packs of 500 g\nDates: 120 g",
    );
  });

  it("costs an amount to the hundredth", () => expect(money(1.2)).toBe("1.20"));
});

describe("the next time", () => {
  it("is the same while it lies ahead", () => expect(nextTime(at(28, 15), NOW)).toBe(at(28, 15)));

  it("is the same day of the coming week", () => {
    expect(nextTime(at(21, 15), NOW)).toBe(at(28, 15));
    expect(nextTime(at(26, 9), NOW)).toBe(at(33, 9));
  });

  it("is a year on where that is near", () => {
    const before = new Date(2025, 10, 29, 15).getTime();
    expect(nextTime(before, NOW)).toBe(at(29, 15));
  });
});

it("counts bowls that take the same together", () => {
  expect(alike([200, 200, 100])).toEqual([
    [200, 2],
    [100, 1],
  ]);
  expect(alike([0, 0])).toEqual([]);
});

import { describe, expect, it } from "vitest";
import { distances } from "../../src/logic/distances";
import { countdown, length, mass, percent, signed, span } from "../../src/logic/format";
import { FORMS } from "../../src/logic/keptAs";
import { parse } from "../../src/logic/numbers";
import { PLAIN_UNITS, unitWord } from "../../src/logic/units";

describe("figures as a baker reads them", () => {
  it("are as exact as a kitchen scale and a ruler", () => {
    expect([99.96, 12.34, 12, 0.5].map(mass)).toEqual(["100 g", "12.3 g", "12 g", "0.5 g"]);
    expect(mass(1234.5)).toBe("1235 g");
    expect(span(67.4)).toBe("6.7 cm");
    expect([9.96, 3, 12.6].map(percent)).toEqual(["10", "3", "13"]);
  });

  it("have a sign of their own, and none below zero for next to nothing", () => {
    expect([1.26, -1.26, -0.04, 0].map((mm) => signed(mm))).toEqual([
      "+1.3",
      "−1.3",
      "+0.0",
      "+0.0",
    ]);
  });

  it("tell lengths of time in hours and minutes", () => {
    expect([0.4, 59, 60, 110, 125].map(length)).toEqual([
      "0 min",
      "59 min",
      "1 h",
      "1 h 50",
      "2 h 05",
    ]);
    expect([245_000, -5_000, 0].map(countdown)).toEqual(["4:05", "+0:05", "0:00"]);
    expect([5_137_000, -3_600_000].map(countdown)).toEqual(["1 h 25", "+1 h 00"]);
  });

  it("are read with a point or a comma, and nothing else", () => {
    expect(["1.5", "1,5", " 12 ", "−3"].map(parse)).toEqual([1.5, 1.5, 12, -3]);
    for (const text of ["", " ", "a", "1.2.3"]) expect(parse(text)).toBeNaN();
  });
});

it("has a word for each unit, and no unit twice", () => {
  expect(new Set(PLAIN_UNITS).size).toBe(PLAIN_UNITS.length);
  expect([unitWord("of_eggs"), unitWord("each"), unitWord("cup")]).toEqual([
    "× eggs",
    "piece",
    "cup",
  ]);
  expect(new Set(FORMS.map(([key]) => key)).size).toBe(FORMS.length);
});

describe("distances on a sheet", () => {
  it("are from middle to middle, along the first row and to the next", () => {
    const centres = [40, 110, 180].flatMap((x) => [50, 130].map((y) => ({ x, y })));
    expect(distances(centres)).toEqual({ across: 70, down: 80 });
  });

  it("are not there for one piece, or one row", () => {
    expect(distances([{ x: 5, y: 5 }])).toEqual({ across: null, down: null });
    expect(distances([])).toEqual({ across: null, down: null });
    expect(
      distances([
        { x: 5, y: 5 },
        { x: 9, y: 5.001 },
      ]).down,
    ).toBeNull();
  });
});

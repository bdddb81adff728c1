import { expect, it } from "vitest";
import { BLANK } from "../../src/logic/draft";
import { othersOf, type Reading } from "../../src/logic/readings";

const reading = (amount: string, ingredient = "flour_ap"): Reading => ({
  line: { ...BLANK, amount, unit: "cup", ingredient },
  grams: 100,
});
const READINGS = [reading("1 1/4"), reading("2 3/4"), reading("1 1/4", "oats_rolled")];

it("offers what else a line can mean, whichever is taken", () => {
  for (const taken of READINGS)
    expect(othersOf(taken.line, READINGS)).toEqual(READINGS.filter((one) => one !== taken));
});

it("offers nothing once the line says what its text does not", () => {
  expect(othersOf(reading("2").line, READINGS)).toEqual([]);
  expect(othersOf(reading("2").line, [])).toEqual([]);
});

import { afterEach, describe, expect, it } from "vitest";
import { METRIC, readIn, US } from "../../src/logic/kitchenUnits";
import {
  nextDay,
  noonOf,
  readDay,
  readMoment,
  readTime,
  stepped,
  writeDay,
  writeMoment,
} from "../../src/logic/moments";

afterEach(() => readIn(METRIC));

// A Saturday.
const NOW = new Date(2026, 9, 10, 9, 20).getTime();
const day = (month: number, date: number, year = 2026) => new Date(year, month - 1, date).getTime();
const at = (date: number, hour: number, minute = 0) =>
  new Date(2026, 9, date, hour, minute).getTime();

describe("times and days as people write them", () => {
  it("reads a time of day on either clock", () => {
    expect(
      ["14:30", "2:30 pm", "2.30pm", "1430", "2p", "9", "12 am", "12pm"].map(readTime),
    ).toEqual([870, 870, 870, 870, 840, 540, 0, 720]);
    for (const text of ["", "25", "9:75", "13 pm", "noon"]) expect(readTime(text), text).toBeNaN();
  });

  it("reads a day in the kitchen's order, or by its name", () => {
    const same = ["12 Oct", "Oct 12", "Mon 12 October", "12/10", "12.10.", "2026-10-12", "monday"];
    for (const text of same) expect(readDay(text, NOW), text).toBe(day(10, 12));
    expect(readDay("today", NOW)).toBe(day(10, 10));
    expect(readDay("tomorrow", NOW)).toBe(day(10, 11));
    expect(readDay("3 Jan", NOW)).toBe(day(1, 3, 2027));
    expect(readDay("12/10/26", NOW)).toBe(day(10, 12));
    readIn(US);
    expect(readDay("10/12", NOW)).toBe(day(10, 12));
    for (const text of ["", "31 Feb", "soon", "40/40", "12 foo"])
      expect(readDay(text, NOW), text).toBeNaN();
  });

  it("reads a day with its time, and a time alone on the day that is there", () => {
    expect(readMoment("Sun 14:30", NOW, NOW)).toBe(at(11, 14, 30));
    expect(readMoment("tomorrow at 9am", NOW, NOW)).toBe(at(11, 9));
    expect(readMoment("12 Oct 8", NOW, NOW)).toBe(at(12, 8));
    expect(readMoment("2026-10-12T08:15", NOW, NOW)).toBe(at(12, 8, 15));
    expect(readMoment("16:00", at(13, 9), NOW)).toBe(at(13, 16));
    for (const text of ["", "Sunday", "31 Feb 9:00", "x 9:00"])
      expect(readMoment(text, NOW, NOW), text).toBeNaN();
  });

  it("reads what it writes, in every order of dates", () => {
    for (const dates of ["day first", "month first", "year first"] as const)
      for (const clock of ["24 h", "12 h"] as const) {
        readIn({ ...METRIC, dates, clock });
        for (const moment of [at(12, 0, 5), at(31, 12), at(10, 23, 45)]) {
          expect(readMoment(writeMoment(moment), NOW, NOW)).toBe(moment);
          expect(noonOf(readDay(writeDay(moment), NOW))).toBe(noonOf(moment));
        }
      }
    readIn(US);
    expect(writeMoment(at(12, 14, 30))).toContain("Mon Oct 12");
    expect(writeDay(day(10, 12, 1990))).toBe("Fri Oct 12 1990");
  });

  it("steps to the quarters of an hour and over days", () => {
    expect(stepped(NOW, 15)).toBe(at(10, 9, 30));
    expect(stepped(NOW, -15)).toBe(at(10, 9, 15));
    expect(nextDay(NOW, -1)).toBe(at(9, 9, 20));
    expect(noonOf(NOW)).toBe(at(10, 12));
  });
});

import { describe, expect, test, vi } from "vitest";
import { roundTimes } from "../../src/logic/day";
import { clock } from "../../src/logic/format";
import { noonOf, readMoment, readTime, timeOn, writeMoment } from "../../src/logic/moments";
import { nextSaturday, tomorrow } from "../../src/logic/occasion";

// Before anything reads the zone.
vi.hoisted(() => vi.stubEnv("TZ", "Europe/Berlin"));

const HOUR = 3_600_000;
/** 23:00 in Berlin on the evening before the clocks are put back, and before they are put on. */
const AUTUMN = Date.UTC(2026, 9, 24, 21);
const SPRING = Date.UTC(2026, 2, 28, 22);

describe("on the nights when clocks change", () => {
  test("a time that comes twice says which it is", () => {
    const said = [1, 2, 3, 4, 5].map((n) => clock(AUTUMN + n * HOUR));
    expect(said).toEqual(["00:00", "01:00", "02:00 (UTC+2)", "02:00 (UTC+1)", "03:00"]);
    expect(clock(AUTUMN + 2.99 * HOUR)).toBe("01:59");
    expect([1, 2, 3].map((n) => clock(SPRING + n * HOUR))).toEqual(["00:00", "01:00", "03:00"]);
  });

  test("and is read as that", () => {
    for (let n = 0; n < 24; n += 1) {
      const at = AUTUMN + n * (HOUR / 2);
      expect(readMoment(writeMoment(at), at, at)).toBe(at);
    }
    expect(readTime("02:30 (UTC+1)")).toBe(150);
  });

  test("marks of the day fall on round hours before and after", () => {
    const marks = roundTimes(AUTUMN, AUTUMN + 12 * HOUR, 2 * HOUR).map((at) => clock(at));
    expect(marks.every((mark) => /^\d[02468]:00/.test(mark))).toBe(true);
    const spring = roundTimes(SPRING, SPRING + 12 * HOUR, 4 * HOUR).map((at) => clock(at));
    expect(spring).toEqual(["00:00", "04:00", "08:00", "12:00"]);
  });

  test("noon is noon, and the next day is the next day", () => {
    expect(clock(noonOf(AUTUMN + 5 * HOUR))).toBe("12:00");
    expect(clock(noonOf(SPRING + 5 * HOUR))).toBe("12:00");
    const late = SPRING + HOUR / 2;
    expect(new Date(tomorrow(late)).getDate()).toBe(29);
    expect(new Date(timeOn(late, 600, 1)).getDate()).toBe(29);
    expect(new Date(nextSaturday(late)).getDay()).toBe(6);
  });
});

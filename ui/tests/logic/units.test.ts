import { afterEach, describe, expect, it } from "vitest";
import cases from "../../../tests/figures.json";
import {
  clock,
  date,
  degrees,
  degreesApart,
  degreesBetween,
  dial,
  FREEZER,
  FRIDGE,
  fine,
  fineAsSet,
  mass,
  massBetween,
  onScale,
  signedDegrees,
  size,
  span,
  spanBetween,
  spanBy,
  volume,
  when,
  wider,
} from "../../src/logic/format";
import {
  inSystem,
  METRIC,
  readIn,
  systemOf,
  type Units,
  US,
  unitsOfRegion,
} from "../../src/logic/kitchenUnits";
import { axisMarks, roundStep, rulerMarks } from "../../src/logic/marks";
import { figureOf, type Measure, measureOf, scaleOf, typedIn } from "../../src/logic/measures";
import { toolName } from "../../src/logic/toolNames";

afterEach(() => readIn(METRIC));

const SAY: Record<string, (kept: number) => string> = {
  dial,
  degrees,
  apart: degreesApart,
  span,
  fine,
  mass,
  volume,
};

describe("a figure in both systems", () => {
  for (const [measure, kept, metric, us] of cases as [string, number, string, string][]) {
    it(`says ${kept} (${measure}) as ${metric} and ${us}`, () => {
      const say = SAY[measure] as (kept: number) => string;
      // The last digit is a matter of rounding halves.
      if (kept !== 63.5) expect(say(kept).replace(/\.0(?= cm)/, "")).toBe(metric);
      readIn(US);
      expect(say(kept)).toBe(us);
    });
  }

  it("has ranges, boxes, sizes and differences", () => {
    expect([spanBetween(60, 75), spanBy(405, 305), size(6), size(25)]).toEqual([
      "6.0 to 7.5 cm",
      "40.5 × 30.5 cm",
      "6 mm",
      "2.5 cm",
    ]);
    expect([massBetween(20, 60), onScale(28.35), fineAsSet(6), wider(1.26)]).toEqual([
      "20 to 60 g",
      "28.4 g",
      "6 mm",
      "+1.3 mm",
    ]);
    readIn(US);
    expect([spanBetween(60, 75), spanBy(405, 305), size(6), size(25.4)]).toEqual([
      "2 3/8 to 3 in",
      "16 × 12 in",
      "1/4 in",
      "1 in",
    ]);
    expect([massBetween(20, 60), onScale(28.35), fineAsSet(6.35), wider(-3.2)]).toEqual([
      "0.71 to 2.1 oz",
      "1.00 oz",
      "1/4 in",
      "−1/8 in",
    ]);
    expect([FRIDGE(), FREEZER(), degreesBetween(2, 8), signedDegrees(-10)]).toEqual([
      "40 °F",
      "0 °F",
      "36 to 46 °F",
      "−18 °F",
    ]);
  });
});

describe("what is typed", () => {
  const near = (measure: Measure, text: string, kept: number) =>
    expect(typedIn(measure, text), text).toBeCloseTo(kept, 1);

  it("is in the kitchen's unit, or in any that is written with it", () => {
    near("length", "60", 60);
    near("length", "6 cm", 60);
    near("length", "2 1/4 in", 57.15);
    near("length", '2¼"', 57.15);
    near("length", "1/2 inch", 12.7);
    near("mass", "1 lb 4 oz", 566.99);
    near("mass", "1.5 kg", 1500);
    near("volume", "1 1/2 tbsp", 22.18);
    near("volume", "1 cup", 236.59);
    near("area", "5 sq in", 32.26);
    near("dial", "350 F", 176.67);
    near("dial", "350 °F", 176.67);
    near("dial", "180", 180);
    near("dial", "gas 4", 176.67);
    near("dial", "gas mark 1/2", 121.1);
    near("temperature", "−18", -18);
    near("degrees apart", "18 F", 10);
    near("degrees a minute", "9 °F/min", 5);
    readIn(US);
    near("length", "2 1/4", 57.15);
    near("length", "6cm", 60);
    near("mass", "4", 113.4);
    near("mass", "100 g", 100);
    near("dial", "350", 176.67);
    near("dial", "180 c", 180);
    near("volume", "2", 29.57);
  });

  it("is refused where it is no figure of that measure", () => {
    for (const text of ["", "abc", "3 oz", "2 in 4", "1/0x", "5 kg cm"])
      expect(typedIn("length", text), text).toBeNaN();
    for (const text of ["350 g", "gas", "12 13"]) expect(typedIn("dial", text), text).toBeNaN();
  });

  it("comes back as it was written", () => {
    readIn(US);
    for (const text of ["2 1/4", "11/16", "16", "3/8"])
      expect(scaleOf("length").words(typedIn("length", text))).toBe(text);
    for (const text of ["350", "325", "342"])
      expect(scaleOf("dial").words(typedIn("dial", text))).toBe(text);
  });

  it("moves to the next mark of the scale", () => {
    readIn(US);
    const length = figureOf("length", undefined);
    expect(length.shown(length.moved(60, 1))).toBe("2 3/8");
    const oven = figureOf("dial", undefined);
    expect(oven.shown(oven.moved(176.67, 5))).toBe("355");
    expect(oven.shown(oven.moved(176.67, -5))).toBe("345");
    readIn(METRIC);
    expect(figureOf("dial", undefined).moved(180, 5)).toBe(185);
    expect(figureOf(undefined, "min").moved(2, 0.5)).toBe(2.5);
    expect(measureOf("mm")).toBe("length");
    expect(measureOf("%")).toBeUndefined();
  });
});

describe("rulers and axes", () => {
  it("are numbered in centimetres or inches", () => {
    const numbers = (how: "coarse" | "fine") =>
      rulerMarks(120, how).flatMap(({ number }) => number ?? []);
    expect(numbers("coarse")).toEqual(["0", "5", "10"]);
    readIn(US);
    expect(numbers("coarse")).toEqual(["0", "2", "4"]);
    expect(numbers("fine")).toEqual(["0", "1", "2", "3", "4"]);
  });

  it("have round figures of the unit that is read", () => {
    expect(axisMarks("temperature", 0, 21, 5)).toEqual([0, 5, 10, 15, 20]);
    expect(roundStep(undefined, 60, 6)).toBe(10);
    readIn(US);
    const marks = axisMarks("temperature", 0, 21, 5).map(degrees);
    expect(marks).toEqual(["40 °F", "50 °F", "60 °F"]);
    expect(roundStep("length", 20, 6)).toBe(1 / 4);
  });
});

describe("the kitchen's setting", () => {
  it("is chosen by the browser's region", () => {
    expect(unitsOfRegion("en-US")).toEqual(US);
    expect(unitsOfRegion("en-GB")).toEqual(METRIC);
    expect(unitsOfRegion("de-DE")).toEqual(METRIC);
    expect(unitsOfRegion("en-AU")).toEqual({ ...METRIC, clock: "12 h" });
    expect(unitsOfRegion("sv-SE").dates).toBe("year first");
  });

  it("is one system, or mixed", () => {
    expect([METRIC, US, { ...US, clock: "24 h" } as Units].map(systemOf)).toEqual([
      "metric",
      "us",
      "us",
    ]);
    const mixed: Units = { ...METRIC, volume: "cups" };
    expect(systemOf(mixed)).toBe("mixed");
    expect(inSystem(mixed, "us")).toEqual({ ...US, clock: "24 h", dates: "day first" });
  });

  it("names tools by their size", () => {
    expect(toolName("round 6 cm")).toBe("round 6 cm");
    readIn(US);
    expect(["round 6 cm", "oblong 20 × 30 cm", "scoop 22 ml", "no. 40"].map(toolName)).toEqual([
      "round 2 3/8 in",
      "oblong 7 7/8 × 11 3/4 in",
      "scoop 1 1/2 tbsp",
      "no. 40",
    ]);
  });

  it("holds for the clock and for dates", () => {
    const moment = new Date(2026, 9, 10, 14, 5).getTime();
    expect([clock(moment), date(moment)]).toEqual(["14:05", "10 Oct"]);
    readIn(US);
    expect([clock(moment), date(moment)]).toEqual(["2:05 pm", "Oct 10"]);
    expect(when(moment, moment + 3 * 86_400_000)).toBe("Sat 2:05 pm");
  });
});

/** Figures as a baker reads them, in the units of the kitchen. */

import { asFraction, inchFigure, trimmed, whole } from "./inches";
import { units } from "./kitchenUnits";
import { aboutFive, dialWords, G_OZ, ML_TBSP, scaleOf, toFahrenheit } from "./measures";

const inInches = (): boolean => units().length === "inches";

const grams = (g: number): string => (g >= 100 ? g.toFixed(0) : trimmed(g, 1));

/** From so many ounces on they are told in tenths, below in hundredths. */
const LEAST_TENTHS = 0.995;
const ounces = (oz: number): string => trimmed(oz, Math.abs(oz) < LEAST_TENTHS ? 2 : 1);

/** A mass: whole grams from 100 up, tenths below; or ounces, with pounds from one up. */
export function mass(g: number): string {
  if (units().mass === "metric") return `${grams(g)} g`;
  const oz = g / G_OZ;
  if (Math.abs(oz) < 0.095)
    return Math.abs(oz) < 0.0005 ? "0 oz" : `${String(Number(oz.toPrecision(2)))} oz`;
  const tenths = Math.round(oz * 10) / 10;
  if (tenths < 16) return `${ounces(oz)} oz`;
  const pounds = Math.floor(tenths / 16);
  const rest = trimmed(tenths - 16 * pounds, 1);
  return rest === "0" ? `${pounds} lb` : `${pounds} lb ${rest} oz`;
}

/** A range of masses. */
export const massBetween = (low: number, high: number): string =>
  units().mass === "metric"
    ? `${grams(low)} to ${grams(high)} g`
    : `${ounces(low / G_OZ)} to ${mass(high)}`;

/** A mass to a tenth of a gram, or to a hundredth of an ounce: as a scale shows it. */
export const onScale = (g: number): string =>
  units().mass === "metric" ? `${g.toFixed(1)} g` : `${(g / G_OZ).toFixed(2)} oz`;

/** A length that metric bakers have in centimetres, without its unit. */
export const spanFigure = (mm: number): string =>
  inInches() ? inchFigure(mm) : (mm / 10).toFixed(1);

export const spanUnit = (): string => (inInches() ? "in" : "cm");

/** What the numbers of a ruler count. */
export const rulerUnit = (): string => (inInches() ? "inches" : "cm");

/** The same with its unit. */
export const span = (mm: number): string => `${spanFigure(mm)} ${spanUnit()}`;

/** A length by another. */
export const spanBy = (across: number, down: number): string =>
  inInches()
    ? `${inchFigure(across)} × ${inchFigure(down)} in`
    : `${trimmed(across / 10, 1)} × ${trimmed(down / 10, 1)} cm`;

export const spanBetween = (low: number, high: number): string =>
  `${spanFigure(low)} to ${span(high)}`;

/** A length that metric bakers have in millimetres, without its unit and with it. */
export const fineFigure = (mm: number, digits = 0): string =>
  inInches() ? inchFigure(mm) : mm.toFixed(digits);

export const fineUnit = (): string => (inInches() ? "in" : "mm");

export const fine = (mm: number, digits = 0): string => `${fineFigure(mm, digits)} ${fineUnit()}`;

/** A length in millimetres as it was set, without noughts at its end. */
export const fineAsSet = (mm: number): string =>
  inInches() ? `${inchFigure(mm)} in` : `${trimmed(mm, 1)} mm`;

/** What a small length is counted in, as a word. */
export const fineWords = (): string => (inInches() ? "inches" : "mm");

/** By how much a length is more or less, without its unit and with it. */
export const widerFigure = (mm: number): string =>
  inInches() ? `${mm < -0.05 ? "−" : "+"}${inchFigure(Math.abs(mm))}` : signed(mm);

export const wider = (mm: number): string => `${widerFigure(mm)} ${fineUnit()}`;

/** A size as a baker says it: 6 mm, 2.5 cm. */
export const size = (mm: number): string =>
  inInches()
    ? `${inchFigure(mm)} in`
    : mm < 15
      ? `${trimmed(mm, 1)} mm`
      : `${trimmed(mm / 10, 1)} cm`;

/** A temperature, to the whole degree. */
export const degrees = (c: number): string =>
  units().temperature === "C" ? `${whole(c)} °C` : `${whole(toFahrenheit(c))} °F`;

/** A temperature to stay at or below, where another round figure is usual in °F. */
const atMost = (c: number, f: number): string =>
  units().temperature === "C" ? `${whole(c)} °C` : `${whole(f)} °F`;

/** What a fridge and a freezer stay at or below, by usual guidance. */
export const FRIDGE = (): string => atMost(4, 40);
export const FREEZER = (): string => atMost(-18, 0);

/** A range of temperatures. */
export const degreesBetween = (low: number, high: number): string => {
  const of = units().temperature === "C" ? (c: number) => c : toFahrenheit;
  return `${whole(of(low))} to ${degrees(high)}`;
};

/** What an oven is set to. */
export const dial = (c: number): string => `${dialWords(c)} ${scaleOf("dial").unit}`;

/** About what an oven is set to, to five degrees of its dial. */
export const dialAbout = (c: number): string => `${aboutFive(c)} ${scaleOf("dial").unit}`;

/** A line as cards have it. */
export const exampleLine = (): string =>
  units().volume === "cups" ? "2 1/4 cups plain flour" : "280 g plain flour";

/** An oven as cards have it, in °C: 180 °C, or 350 °F. */
export const exampleOven = (): number => (units().temperature === "C" ? 180 : 176.67);

/** By how many degrees. */
export const degreesApart = (c: number): string =>
  units().temperature === "C" ? `${whole(c)} °C` : `${whole(c * 1.8)} °F`;

export const signedDegrees = (c: number): string =>
  `${c < -0.5 ? "−" : "+"}${degreesApart(Math.abs(c))}`;

/** A volume in ml, or in quarters of a cup, halves of a tablespoon or quarters of a teaspoon. */
export function volume(ml: number): string {
  if (units().volume === "metric") return `${trimmed(ml, 1)} ml`;
  const [unit, each, parts] =
    ml >= 4 * ML_TBSP
      ? (["cup", 16 * ML_TBSP, 4] as const)
      : ml >= ML_TBSP
        ? (["tbsp", ML_TBSP, 2] as const)
        : (["tsp", ML_TBSP / 3, 4] as const);
  return `${asFraction(Math.round((ml / each) * parts), parts)} ${unit}`;
}

export const signed = (value: number, digits = 1): string =>
  `${value < -0.05 ? "−" : "+"}${Math.abs(value).toFixed(digits)}`;

export const percent = (value: number): string =>
  value >= 10 ? value.toFixed(0) : trimmed(value, 1);

const H24 = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const H12 = new Intl.DateTimeFormat("en-US", { hour: "numeric", minute: "2-digit" });
const dayFormat = new Intl.DateTimeFormat("en-GB", { weekday: "short" });
const dayFirst = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });
const monthFirst = new Intl.DateTimeFormat("en-US", { day: "numeric", month: "short" });

const MINUTE_MS = 60_000;
/** Clocks change at most once within so long before and after. */
const NEAR_MS = 180 * MINUTE_MS;

const west = (ms: number): number => new Date(ms).getTimezoneOffset();

/** The offset of a moment where the clock shows its time twice, on the night when it is put back;
 * else nothing. */
function whichOfTwo(ms: number): string {
  const back = west(ms + NEAR_MS) - west(ms - NEAR_MS);
  if (back <= 0) return "";
  const [before, after] = [west(ms - back * MINUTE_MS), west(ms + back * MINUTE_MS)];
  if (after - west(ms) !== back && west(ms) - before !== back) return "";
  const east = -west(ms);
  const [hours, rest] = [Math.floor(Math.abs(east) / 60), Math.abs(east) % 60];
  return ` (UTC${east < 0 ? "−" : "+"}${hours}${rest ? `:${String(rest).padStart(2, "0")}` : ""})`;
}

/** The time of day, on a clock of 24 or 12 hours; where it comes twice, with its offset. */
export const clock = (ms: number): string =>
  (units().clock === "24 h" ? H24.format(ms) : H12.format(ms).replace(/\s/g, " ").toLowerCase()) +
  whichOfTwo(ms);

/** The time, with its weekday when that is not today's. */
export function when(ms: number, now: number): string {
  const same = new Date(ms).toDateString() === new Date(now).toDateString();
  return same ? clock(ms) : `${dayFormat.format(ms)} ${clock(ms)}`;
}

export const date = (ms: number): string =>
  (units().dates === "day first" ? dayFirst : monthFirst).format(ms);

/** Minutes as a length: 45 min, 1 h 50. */
export function length(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  const rest = whole % 60;
  return rest ? `${Math.floor(whole / 60)} h ${String(rest).padStart(2, "0")}` : `${whole / 60} h`;
}

const HOUR_S = 3600;

/** A countdown: 4:05, and how long it is over when negative. */
export function countdown(ms: number): string {
  const seconds = Math.round(Math.abs(ms) / 1000);
  // From an hour on nobody counts seconds, and 85:37 might be hours.
  if (seconds >= HOUR_S)
    return `${ms < 0 ? "+" : ""}${Math.floor(seconds / HOUR_S)} h ${String(Math.floor((seconds % HOUR_S) / 60)).padStart(2, "0")}`;
  return `${ms < 0 ? "+" : ""}${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}

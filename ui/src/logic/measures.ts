/** Figures as they are typed and set: each measure on the scale of the kitchen that reads it. */

import { inchFigure, MM_IN, trimmed, whole } from "./inches";
import { units } from "./kitchenUnits";
import { parse } from "./numbers";

export type Measure =
  | "temperature"
  | "dial"
  | "degrees apart"
  | "degrees a minute"
  | "length"
  | "width"
  | "area"
  | "mass"
  | "volume";

/** A measure on a kitchen's scale: of what is kept (°C, mm, cm², g, ml), and back to it. */
export interface Scale {
  unit: string;
  /** The figure that is read. */
  of: (kept: number) => number;
  /** What is kept for a figure that was read. */
  kept: (read: number) => number;
  /** The figure in words, without its unit. */
  words: (kept: number) => string;
  /** The step of this scale that is nearest to so much of what is kept. */
  step: (kept: number) => number;
}

export const G_OZ = 28.349523125;
export const ML_TBSP = 14.78676478125;
const CM2_IN2 = 6.4516;
const OZ_LB = 16;

const tenth = (value: number): string => trimmed(Math.round(value * 10) / 10, 1);

function times(
  unit: string,
  each: number,
  words: (read: number) => string,
  steps: number[],
): Scale {
  return {
    unit,
    of: (kept) => kept / each,
    kept: (read) => read * each,
    words: (kept) => words(kept / each),
    step: (kept) => steps.find((step) => step * each >= kept * 0.55) ?? steps.at(-1) ?? 1,
  };
}

const plain = (unit: string): Scale => ({
  unit,
  of: (kept) => kept,
  kept: (read) => read,
  words: tenth,
  step: (kept) => kept,
});

export const toFahrenheit = (celsius: number): number => celsius * 1.8 + 32;
export const toCelsius = (fahrenheit: number): number => (fahrenheit - 32) / 1.8;

const NEARLY_WHOLE = 0.03;
const isWhole = (value: number): boolean => Math.abs(value - Math.round(value)) < NEARLY_WHOLE;
const toFive = (value: number): string => whole(5 * Math.round(value / 5));

/** A setting to the nearest five degrees of the kitchen's scale. */
export const aboutFive = (celsius: number): string =>
  toFive(units().temperature === "C" ? celsius : toFahrenheit(celsius));

/** What an oven is set to, as a dial has it: a whole degree of that scale stays as it was set, what
 * was set in the other scale is put to the nearest five. */
export function dialWords(celsius: number): string {
  const fahrenheit = toFahrenheit(celsius);
  if (units().temperature === "C") return isWhole(celsius) ? whole(celsius) : toFive(celsius);
  return isWhole(fahrenheit) && !isWhole(celsius) ? whole(fahrenheit) : toFive(fahrenheit);
}

function fahrenheit(words: (celsius: number) => string): Scale {
  const steps = [1, 2, 5, 10];
  return {
    unit: "°F",
    of: toFahrenheit,
    kept: toCelsius,
    words,
    step: (kept) => steps.find((step) => step >= kept * 0.99) ?? 10,
  };
}

/** The scale on which the kitchen reads a measure. */
export function scaleOf(measure: Measure): Scale {
  const read = units();
  const inF = read.temperature === "F";
  switch (measure) {
    case "temperature":
      return inF ? fahrenheit((c) => whole(toFahrenheit(c))) : plain("°C");
    case "dial":
      return inF ? fahrenheit(dialWords) : { ...plain("°C"), words: dialWords };
    case "degrees apart":
      return inF ? times("°F", 1 / 1.8, whole, [1, 2, 5, 10]) : plain("°C");
    case "degrees a minute":
      return inF ? times("°F/min", 1 / 1.8, tenth, [1, 2, 5]) : plain("°C/min");
    case "length":
      return read.length === "metric"
        ? plain("mm")
        : times("in", MM_IN, (inches) => inchFigure(inches * MM_IN), [
            1 / 16,
            1 / 8,
            1 / 4,
            1 / 2,
            1,
          ]);
    case "width":
      return read.length === "metric" ? times("cm", 10, tenth, [0.1, 0.5, 1]) : scaleOf("length");
    case "area":
      return read.length === "metric"
        ? plain("cm²")
        : times("sq in", CM2_IN2, tenth, [0.1, 0.5, 1]);
    case "mass":
      return read.mass === "metric"
        ? plain("g")
        : times("oz", G_OZ, (oz) => trimmed(oz, oz < 10 ? 2 : 1), [0.05, 0.1, 0.5, 1, 2, 4]);
    case "volume":
      return read.volume === "metric"
        ? plain("ml")
        : times("tbsp", ML_TBSP, (tbsp) => trimmed(tbsp, 2), [0.25, 0.5, 1]);
  }
}

const KEPT_IN: Record<string, Measure> = {
  mm: "length",
  g: "mass",
  ml: "volume",
  "cm²": "area",
  "°C": "temperature",
};

/** The measure of a figure that the API gives in that unit; undefined where units do not differ. */
export const measureOf = (unit: string | undefined): Measure | undefined =>
  unit === undefined ? undefined : KEPT_IN[unit];

type Family = "temperature" | "length" | "mass" | "volume" | "area";
const FAMILY: Record<Measure, Family> = {
  temperature: "temperature",
  dial: "temperature",
  "degrees apart": "temperature",
  "degrees a minute": "temperature",
  length: "length",
  width: "length",
  area: "area",
  mass: "mass",
  volume: "volume",
};

/** Written units, each with its family and how many of what is kept it is. */
const WRITTEN: [RegExp, Family, number][] = [
  [/^(?:mm|millimet(?:re|er)s?)$/, "length", 1],
  [/^(?:cm|centimet(?:re|er)s?)$/, "length", 10],
  [/^(?:in|ins|inch|inches|"|″|”|'')$/, "length", MM_IN],
  [/^(?:g|gr|grams?|grammes?)$/, "mass", 1],
  [/^(?:kg|kilos?|kilograms?)$/, "mass", 1000],
  [/^(?:oz|ounces?)$/, "mass", G_OZ],
  [/^(?:lb|lbs|pounds?)$/, "mass", OZ_LB * G_OZ],
  [/^(?:ml|millilit(?:re|er)s?)$/, "volume", 1],
  [/^(?:cl)$/, "volume", 10],
  [/^(?:dl)$/, "volume", 100],
  [/^(?:tsp|teaspoons?)$/, "volume", ML_TBSP / 3],
  [/^(?:tbsp|tablespoons?)$/, "volume", ML_TBSP],
  [/^(?:fl oz)$/, "volume", 2 * ML_TBSP],
  [/^(?:cups?)$/, "volume", 16 * ML_TBSP],
  [/^(?:cm²|cm2|sq cm)$/, "area", 1],
  [/^(?:sq in|in²|in2)$/, "area", CM2_IN2],
];
const IN_C = /^(?:°c|c|º ?c|degrees? c|celsius)$/;
const IN_F = /^(?:°f|f|º ?f|degrees? f|fahrenheit)$/;
const GAS = /^gas(?: mark)? (.+)$/;
const SIGNS: Record<string, string> = {
  "½": " 1/2",
  "¼": " 1/4",
  "¾": " 3/4",
  "⅓": " 1/3",
  "⅔": " 2/3",
  "⅛": " 1/8",
  "⅜": " 3/8",
  "⅝": " 5/8",
  "⅞": " 7/8",
};
const PART = /^([−-]?(?:\d+ \d+\/\d+|\d+\/\d+|\d*[.,]?\d+))\s*([^\d\s][^\d]*)?/;

/** A number as people write it: 2.5, 2,5, 1/2, 2 1/4. */
function numberIn(text: string): number {
  const [whole, part] = text.includes(" ") ? text.split(" ") : [null, text];
  const sign = /^[−-]/.test(text) ? -1 : 1;
  const one = (written: string) => {
    const [above, below] = written.replace(/^[−-]/, "").replace(",", ".").split("/");
    return Number(above) / (below === undefined ? 1 : Number(below));
  };
  return sign * ((whole === null ? 0 : one(whole ?? "")) + one(part ?? ""));
}

function degrees(value: number, unit: string, measure: Measure): number {
  const scale = scaleOf(measure);
  const between = measure === "degrees apart" || measure === "degrees a minute";
  if (unit === "" || unit === "°" || unit === scale.unit.toLowerCase()) return scale.kept(value);
  const named = unit.replace(/ ?\/ ?min$/, "");
  if (IN_C.test(named)) return value;
  if (IN_F.test(named)) return between ? value / 1.8 : toCelsius(value);
  return Number.NaN;
}

/** What is typed into a field of that measure, as it is kept: in the kitchen's unit, or in whatever
 * unit is written with it (2 1/4 in, 6 cm, 1 lb 4 oz, 350 F, gas 4); NaN for what is none. */
export function typedIn(measure: Measure, text: string): number {
  let rest = text
    .trim()
    .toLowerCase()
    .replace(/[½¼¾⅓⅔⅛⅜⅝⅞]/g, (sign) => SIGNS[sign] ?? sign);
  rest = rest.replace("⁄", "/").replace(/\s+/g, " ").trim();
  if (rest === "") return Number.NaN;
  const gas = FAMILY[measure] === "temperature" ? GAS.exec(rest) : null;
  if (gas) {
    const mark = numberIn(gas[1] ?? "");
    return toCelsius(mark >= 1 ? 250 + 25 * mark : 200 + 100 * mark);
  }
  let sum = 0;
  while (rest !== "") {
    const found = PART.exec(rest);
    if (!found) return Number.NaN;
    const value = numberIn(found[1] ?? "");
    const unit = (found[2] ?? "").trim().replace(/\.$/, "");
    rest = rest.slice(found[0].length).trim();
    if (FAMILY[measure] === "temperature")
      return rest === "" ? degrees(value, unit, measure) : Number.NaN;
    const written = WRITTEN.find(
      ([named, family]) => family === FAMILY[measure] && named.test(unit),
    );
    if (written) sum += value * written[2];
    else if (unit === "" && rest === "" && sum === 0) sum = scaleOf(measure).kept(value);
    else return Number.NaN;
  }
  return sum;
}

/** How a figure is shown, typed and moved: by its measure, or as the plain number that it is. */
export function figureOf(measure: Measure | undefined, unit: string | undefined) {
  const measured = measure ?? measureOf(unit);
  if (!measured) {
    const shown = (value: number) => String(Math.round(value * 10) / 10);
    const moved = (value: number, by: number) => Math.round((value + by) * 1000) / 1000;
    return { unit, shown, typed: parse, moved, keys: "decimal" as const };
  }
  const scale = scaleOf(measured);
  return {
    unit: scale.unit,
    shown: scale.words,
    // Which keys a phone shows: fractions want all of them.
    keys: scale.unit === "in" ? ("text" as const) : ("decimal" as const),
    typed: (text: string) => typedIn(measured, text),
    // To the next mark of this scale.
    moved: (value: number, by: number) => {
      const step = scale.step(Math.abs(by));
      const marks = scale.of(value) / step;
      const next = by > 0 ? Math.floor(marks + 1.01) : Math.ceil(marks - 1.01);
      return Math.round(scale.kept(next * step) * 1000) / 1000;
    },
  };
}

import type { Schemas } from "../api/client";

export type Units = Required<Schemas["KitchenUnits"]>;

export const METRIC: Units = {
  temperature: "C",
  length: "metric",
  mass: "metric",
  volume: "metric",
  clock: "24 h",
  dates: "day first",
};

export const US: Units = {
  temperature: "F",
  length: "inches",
  mass: "ounces",
  volume: "cups",
  clock: "12 h",
  dates: "month first",
};

/** The systems, and what they are called. */
export const SYSTEMS = [
  ["metric", "metric"],
  ["us", "US"],
  ["mixed", "mixed"],
] as const;

const MEASURED = ["temperature", "length", "mass", "volume"] as const;

/** Metric or US where all figures are; the clock and the order of dates are chosen by themselves. */
export function systemOf(units: Units): "metric" | "us" | "mixed" {
  const as = (other: Units) => MEASURED.every((measure) => units[measure] === other[measure]);
  return as(METRIC) ? "metric" : as(US) ? "us" : "mixed";
}

/** The units of another system, with the clock and the order of dates as they are. */
export const inSystem = (units: Units, system: "metric" | "us"): Units => ({
  ...(system === "us" ? US : METRIC),
  clock: units.clock,
  dates: units.dates,
});

/** The country of a language that a browser reads: ISO 3166. */
export const countryOf = (locale: string): string =>
  new Intl.Locale(locale).maximize().region ?? "";

/** Regions that measure in inches and °F (CLDR, measurement systems). */
const IN_INCHES = ["US", "LR", "MM"];

/** What is usual in a region, by the browser's own tables. */
export function unitsOfRegion(locale: string): Units {
  const usual = IN_INCHES.includes(countryOf(locale)) ? US : METRIC;
  const clock = new Intl.DateTimeFormat(locale, { hour: "numeric" }).resolvedOptions();
  const first = new Intl.DateTimeFormat(locale, {
    day: "numeric",
    month: "numeric",
    year: "numeric",
  })
    .formatToParts(0)
    .find((part) => part.type !== "literal" && part.type !== "era")?.type;
  return {
    ...usual,
    clock: clock.hour12 ? "12 h" : "24 h",
    dates: first === "month" ? "month first" : first === "year" ? "year first" : "day first",
  };
}

let current: Units = METRIC;

/** Set by the kitchen's setting, before any screen is drawn. */
export function readIn(units: Units): void {
  current = units;
}

/** The units in which figures are read now. */
export const units = (): Units => current;

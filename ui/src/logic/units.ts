import type { Unit } from "../api/client";

const WORDS: Partial<Record<Unit, string>> = {
  of_eggs: "× eggs",
  each: "piece",
};

/** A unit as a baker reads it. */
export const unitWord = (unit: Unit): string => WORDS[unit] ?? unit;

export const PLAIN_UNITS: Unit[] = [
  "g",
  "kg",
  "oz",
  "lb",
  "cup",
  "tbsp",
  "tsp",
  "ml",
  "dl",
  "pinch",
  "egg",
  "stick",
  "of_eggs",
];

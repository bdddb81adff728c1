import type { Unit } from "../api/client";

const WORDS: Partial<Record<Unit, string>> = {
  of_eggs: "× eggs",
  egg_weight: "eggs’ weight",
  each: "piece",
};

/** A unit as a baker reads it. */
export const unitWord = (unit: Unit): string => WORDS[unit] ?? unit;

/** What every ingredient can be measured by: the eggs of its dough, or as much as some weigh. */
export const OF_EGGS: Unit[] = ["of_eggs", "egg_weight"];

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
  ...OF_EGGS,
];

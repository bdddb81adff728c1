import type { Line, Schemas } from "../api/client";

export type Reading = Schemas["OtherReading"];

const same = (one: Line, other: Line): boolean =>
  one.amount === other.amount && one.unit === other.unit && one.ingredient === other.ingredient;

/** What else a line can mean: none once it was changed to what its text does not say. */
export const othersOf = (line: Line, readings: Reading[]): Reading[] =>
  readings.some((one) => same(one.line, line))
    ? readings.filter((one) => !same(one.line, line))
    : [];

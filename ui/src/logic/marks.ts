/** The marks of rulers and axes, at round figures of the unit that the kitchen reads. */

import { MM_IN } from "./inches";
import { units } from "./kitchenUnits";
import { type Measure, scaleOf } from "./measures";

export interface RulerMark {
  mm: number;
  /** The number at it; none at a small mark. */
  number: string | null;
}

/** The unit of a ruler in mm, after so many of its units a number, and its small marks in a unit. */
const RULERS = {
  metric: { unit: 10, coarse: [5, 1], fine: [2, 1] },
  inches: { unit: MM_IN, coarse: [2, 2], fine: [1, 4] },
} as const;

/** The marks of a ruler so long: centimetres or inches; a fine one has numbers closer together. */
export function rulerMarks(length_mm: number, how: "coarse" | "fine"): RulerMark[] {
  const ruler = RULERS[units().length];
  const [numbered, parts] = ruler[how];
  const each = ruler.unit / parts;
  return Array.from({ length: Math.floor(length_mm / each + 1e-6) + 1 }, (_, n) => ({
    mm: Math.round(n * each * 1000) / 1000,
    number: n % (numbered * parts) === 0 ? String(n / parts) : null,
  }));
}

const ROUND = [1, 2, 5, 10, 20, 25, 50, 100, 200, 500];
const ROUND_INCHES = [1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 2, 4, 6, 12];
const ROUND_FINE = [0.01, 0.02, 0.05, 0.1, 0.2, 0.25, 0.5, ...ROUND];

/** Round steps on the scale of a measure. */
const roundSteps = (measure: Measure | undefined): readonly number[] => {
  if (measure === "length" && units().length === "inches") return ROUND_INCHES;
  return measure === undefined ? ROUND : ROUND_FINE;
};

const AS_IT_IS = { of: (kept: number) => kept, kept: (read: number) => read };

/** The step between the marks of a span (as it is kept), so that no more than `most` stand on it. */
export function roundStep(measure: Measure | undefined, span: number, most: number): number {
  const scale = measure ? scaleOf(measure) : AS_IT_IS;
  const read = scale.of(span) - scale.of(0);
  const steps = roundSteps(measure);
  return steps.find((step) => read / step <= most) ?? (steps.at(-1) as number);
}

/** Round figures from low to high (as they are kept), for an axis. */
export function axisMarks(measure: Measure, low: number, high: number, most: number): number[] {
  const scale = scaleOf(measure);
  const step = roundStep(measure, high - low, most);
  const first = Math.ceil(scale.of(low) / step - 1e-6);
  const last = Math.floor(scale.of(high) / step + 1e-6);
  return Array.from({ length: Math.max(last - first + 1, 0) }, (_, n) =>
    scale.kept((first + n) * step),
  );
}

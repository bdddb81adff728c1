import type { BakingSession, Schemas } from "../api/client";
import { length, when } from "./format";

/** The first word of what is counted, for more than one of it. */
export const plural = (of: string, count: number): string =>
  count === 1 ? of : of.replace(/^\w+/, "$&s");

/** Whether it is ready by a time that was asked for: then it is begun as late as can be. */
export const inTime = (plan: BakingSession): boolean =>
  plan.ready_by !== null && plan.finish_at <= plan.ready_by;

/** How far from the best the plan can be: in minutes where that says something. */
export function howGood(plan: BakingSession): string {
  if (inTime(plan)) return `At most ${length(plan.gap_min)} from the latest possible start.`;
  if (plan.gap_min <= SAYS_SOMETHING_MIN)
    return `At most ${length(plan.gap_min)} from the best possible.`;
  const soonest = when(plan.finish_at - plan.gap_min * 60_000, plan.now);
  return `Nobody can be ready before ${soonest}; whether anybody can be sooner than this plan is not proven.`;
}

const SAYS_SOMETHING_MIN = 120;
/** A start as near as this is now. */
export const SOON_MS = 5 * 60_000;

/** By how much, and why. */
export function tooLate(plan: BakingSession, late: number): string {
  const wanted = when(plan.ready_by ?? 0, plan.now);
  if ((plan.ready_by ?? 0) < plan.now)
    return `that time has passed (${wanted}). Begun now it is ready ${when(plan.finish_at, plan.now)}.`;
  return `even begun now it is ready ${length(late)} after ${wanted}: ${clash(plan)}`;
}

/** Which demands clash, with figures. */
function clash(plan: BakingSession): string {
  const [first, second] = [...plan.hold_ups].sort((a, b) => b.minutes - a.minutes);
  const parts = [first, second].flatMap((h) =>
    h ? [`${CAUSE[h.cause]} ${length(h.minutes)}`] : [],
  );
  const needs = length((plan.finish_at - plan.start_at) / 60_000);
  const has = length(((plan.ready_by ?? 0) - plan.start_at) / 60_000);
  return `it takes ${needs} (most of it ${parts.join(" and ")}), and there are ${has}.`;
}

/** What a part of the chain of steps is. */
export const CAUSE: Record<Schemas["HoldUp"]["cause"], string> = {
  getting_ready: "getting ready, softening, cooling",
  mixing: "mixing",
  shaping: "shaping and wrapping",
  chilling: "chilling, thawing, tempering",
  heating: "the oven getting hot",
  portioning: "portioning",
  oven: "in the oven",
  slicing: "slicing",
  hands: "loading, taking out, moving",
  resting: "resting on the sheet",
  sheet: "sheet cooling and lining",
  cooling: "cooling on the rack",
  finishing: "icing, dusting, setting",
  waiting: "a break or a window between",
};

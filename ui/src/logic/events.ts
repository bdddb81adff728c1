import type { Activity, BakingSession, Schemas } from "../api/client";
import { stepOf } from "./jobs";

export type BakeEvent = Omit<Schemas["BakeEvent"], "ago_ms">;
export type Firm = NonNullable<BakingSession["doughs"][number]["felt"]>;

/** How much colder or warmer a dough is given time to get: a soft one chills, a hard one waits. */
export const WAITS_MIN: Record<Firm, number | null> = { soft: 15, right: null, hard: 10 };

const TWO_MORE = 2;

/** That a tray is not done yet, as it is to come out; null for any other job. */
export function notYet(job: Activity, session: BakingSession): BakeEvent | null {
  const bake = job.kind === "out" ? stepOf(session, job, "bake") : undefined;
  return bake ? { kind: "more", activity: bake.key, minutes: TWO_MORE } : null;
}

/** That a job is left out; null where what follows needs it. */
export const leaveOut = (job: Activity): BakeEvent | null =>
  job.may_be_left_out ? { kind: "skip", activity: job.key } : null;

export const OVEN_SLOW: BakeEvent = { kind: "slow", activity: "", minutes: 5 };

/** That a dough feels so before it is portioned; too soft or too hard it waits. */
export const felt = (job: Activity, firm: Firm): BakeEvent | null =>
  job.may_be_felt
    ? { kind: "felt", activity: job.key, what: firm, minutes: WAITS_MIN[firm] }
    : null;

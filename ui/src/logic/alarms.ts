import type { Activity, BakingSession } from "../api/client";
import { dueJobs, jobNow, wordsOf } from "./jobs";
import { stepKey, type Timers } from "./timers";

/** What a sound says, heard from another room: hot work, a job for the hands, a tray running over, a
 * timer that is up. */
export type Sound = "hot" | "hands" | "over" | "timer";

/** Something that calls for somebody now. Another `key` is another call. */
export interface Call {
  key: string;
  sound: Sound;
  words: string;
  since: number;
}

const MINUTE = 60_000;
const DUE_MS = 1000;
/** A timer that ended longer ago is shown, and rings no more. */
const STALE_MS = 5 * MINUTE;

const isHot = (job: Activity): boolean => job.hot;

/** All that calls now, what is hot before all else: the job that is due, every other hot one that is,
 * each again with every minute that it runs over, and each timer of a step that is up. */
export function callsOf(session: BakingSession, timers: Timers, now: number): Call[] {
  const first = jobNow(session, now);
  const due = dueJobs(session, now + DUE_MS).filter((job) => job === first || isHot(job));
  const jobs = due.map((job): Call => {
    const late = isHot(job) ? Math.max(0, Math.floor((now - job.due_at) / MINUTE)) : 0;
    const sound = late > 0 ? "over" : isHot(job) ? "hot" : "hands";
    return { key: `${job.key} ${late}`, sound, words: wordsOf(job).title, since: job.due_at };
  });
  const hot = jobs.filter((call) => call.sound !== "hands");
  const calm = jobs.filter((call) => call.sound === "hands");
  return [...hot, ...calm, ...timersUp(session, timers, now)];
}

function timersUp(session: BakingSession, timers: Timers, now: number): Call[] {
  return session.activities.flatMap((job) =>
    wordsOf(job).steps.flatMap((step, place): Call[] => {
      const name = stepKey(job.key, place);
      const ends = timers[name];
      if (ends === undefined || ends > now || now - ends > STALE_MS) return [];
      return [
        { key: `timer ${name}`, sound: "timer", words: `Time is up: ${step.text}`, since: ends },
      ];
    }),
  );
}

/** When each timer ends, by the server's clock: by the job and the place of the step in it. */
export type Timers = Record<string, number>;

export const NO_TIMERS: Timers = {};

export const stepKey = (job: string, place: number): string => `${job} ${place}`;

/** A timer set on a step; taken off where it runs. */
export function timed(timers: Timers, key: string, endsAt: number): Timers {
  const { [key]: was, ...others } = timers;
  return was === undefined ? { ...others, [key]: endsAt } : others;
}

/** The timers without that of a step. */
export function stopped(timers: Timers, key: string): Timers {
  const { [key]: _, ...others } = timers;
  return others;
}

/** Under which name this browser keeps those of a session. */
export const timersKeptAt = (sessionId: number): string => `finebatch.steps.${sessionId}`;

/** What was kept of them, read; nothing where it is not of that kind. */
export function readTimers(kept: string | null): Timers {
  try {
    const found: unknown = JSON.parse(kept ?? "");
    if (typeof found !== "object" || found === null) return NO_TIMERS;
    const { timers } = found as { timers?: Timers };
    return { ...timers };
  } catch {
    return NO_TIMERS;
  }
}

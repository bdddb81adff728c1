/** Which steps of a job are ticked, and which timers run: by session, job and place of the step. */
export interface Ticks {
  done: Record<string, true>;
  /** When each timer ends, by the server's clock. */
  timers: Record<string, number>;
}

export const NO_TICKS: Ticks = { done: {}, timers: {} };

export const stepKey = (job: string, place: number): string => `${job} ${place}`;

/** A step ticked, or not any more; its timer is over with it. */
export function ticked(ticks: Ticks, key: string): Ticks {
  const { [key]: was, ...done } = ticks.done;
  const { [key]: _, ...timers } = ticks.timers;
  return { done: was ? done : { ...done, [key]: true }, timers };
}

/** A timer set on a step; taken off where it runs. */
export function timed(ticks: Ticks, key: string, endsAt: number): Ticks {
  const { [key]: was, ...timers } = ticks.timers;
  return { ...ticks, timers: was === undefined ? { ...timers, [key]: endsAt } : timers };
}

/** What was kept of them, read; nothing where it is not of that kind. */
export function readTicks(kept: string | null): Ticks {
  try {
    const found: unknown = JSON.parse(kept ?? "");
    if (typeof found !== "object" || found === null) return NO_TICKS;
    const { done, timers } = found as Partial<Ticks>;
    return { done: { ...done }, timers: { ...timers } };
  } catch {
    return NO_TICKS;
  }
}

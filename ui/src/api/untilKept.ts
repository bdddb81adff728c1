import { ProblemError } from "./client";

const AGAIN_MS = 2000;

/** Whether the server was not there, or not able to answer: what was asked may be asked again. */
export const isAway = (problem: unknown): boolean =>
  problem instanceof ProblemError && (problem.status === 0 || problem.status >= 500);

/** Keep something, again and again while the server is away: when it is back, it is kept by itself. */
export async function untilKept<T>(
  keep: () => Promise<T>,
  onAway: (problem: Error) => void,
): Promise<T> {
  for (;;) {
    try {
      return await keep();
    } catch (error) {
      if (!isAway(error)) throw error;
      onAway(error as Error);
      await new Promise((done) => setTimeout(done, AGAIN_MS));
    }
  }
}

/** Any press while the server does not answer goes to it once it is back. */
export const WHILE_LOST = {
  retry: (_count: number, error: Error) => error instanceof ProblemError && error.status === 0,
  retryDelay: 1000,
};

/** The same for a change that TanStack Query makes; meanwhile its `failureReason` says why. */
export const WHILE_AWAY = {
  retry: (_count: number, error: Error) => isAway(error),
  retryDelay: AGAIN_MS,
};

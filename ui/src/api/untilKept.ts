import { ProblemError } from "./client";

const AGAIN_MS = 2000;

/** Whether the server was not there, or not able to answer: what was asked may be asked again. */
export const isAway = (problem: unknown): boolean =>
  problem instanceof ProblemError && (problem.status === 0 || problem.status >= 500);

/**
 * Keep something, again and again while the server is not able to: when it is, it is kept by itself.
 * `asKept` is what there is where it turns out to have been kept, and its answer to be lost.
 */
export async function untilKept<T>(
  keep: () => Promise<T>,
  onAway: (problem: Error) => void,
  asKept: () => Promise<T>,
): Promise<T> {
  for (;;) {
    try {
      return await keep();
    } catch (error) {
      if (error instanceof ProblemError && error.isKept) return asKept();
      if (!isAway(error)) throw error;
      onAway(error as Error);
      await new Promise((done) => setTimeout(done, AGAIN_MS));
    }
  }
}

/** The same for a change that TanStack Query makes; meanwhile its `failureReason` says why. */
export const WHILE_AWAY = {
  retry: (_count: number, error: Error) => isAway(error),
  retryDelay: AGAIN_MS,
};

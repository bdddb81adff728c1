import { useEffect, useState } from "react";
import type { BakingSession } from "../api/client";
import { serverNow } from "../logic/clock";

const SECOND_MS = 1000;

/** The time by the server's clock, at each of its seconds; countdowns are worked out from it, never
 * counted. */
export function useNow(session: BakingSession | null | undefined): number {
  const [, tick] = useState(0);
  const running = session?.state === "running";
  useEffect(() => {
    if (!running) return;
    let timer: ReturnType<typeof setTimeout>;
    const next = () => {
      timer = setTimeout(
        () => {
          tick((n) => n + 1);
          next();
        },
        SECOND_MS - (serverNow() % SECOND_MS),
      );
    };
    next();
    return () => clearTimeout(timer);
  }, [running]);
  return serverNow();
}

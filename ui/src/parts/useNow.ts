import { useEffect, useState } from "react";
import type { BakingSession } from "../api/client";
import { serverNow } from "../logic/clock";

const TICK_MS = 250;

/** The time by the server's clock, ticking; countdowns are worked out from it, never counted. */
export function useNow(session: BakingSession | null | undefined): number {
  const [, tick] = useState(0);
  const running = session?.state === "running";
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => tick((n) => n + 1), TICK_MS);
    return () => clearInterval(timer);
  }, [running]);
  return serverNow();
}

import { useEffect, useState } from "react";
import { serverNow } from "../../logic/clock";

/** The time by the server's clock, each second, also in a window that nobody looks at. */
export function useTicks(on: boolean, everyTick: () => void): number {
  const [, tick] = useState(0);
  useEffect(() => {
    if (!on) return;
    const worker = new Worker(new URL("./ticker.ts", import.meta.url), { type: "module" });
    worker.onmessage = () => {
      tick((n) => n + 1);
      everyTick();
    };
    return () => worker.terminate();
  }, [on, everyTick]);
  return serverNow();
}

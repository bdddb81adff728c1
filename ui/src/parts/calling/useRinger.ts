import { useEffect, useState } from "react";
import { allowSound, useAudible } from "./sounds";

const LOCK = "finebatch.rings";

/**
 * Whether this window is the one of its browser that rings while something is baked: the first in
 * which something was pressed, as browsers let no other be heard; when it is closed, the next.
 */
export function useRinger(baking: boolean): boolean {
  const audible = useAudible();
  const [holds, setHolds] = useState(false);
  useEffect(() => {
    if (!baking) return;
    // Whoever has just started a session has pressed something.
    if (navigator.userActivation?.hasBeenActive) allowSound();
    window.addEventListener("pointerdown", allowSound);
    window.addEventListener("keydown", allowSound);
    return () => {
      window.removeEventListener("pointerdown", allowSound);
      window.removeEventListener("keydown", allowSound);
    };
  }, [baking]);
  useEffect(() => {
    if (!baking || !audible) return;
    if (!navigator.locks) {
      setHolds(true);
      return () => setHolds(false);
    }
    const over = new AbortController();
    const held = new Promise<void>((release) =>
      over.signal.addEventListener("abort", () => release()),
    );
    navigator.locks
      .request(LOCK, { signal: over.signal }, () => {
        setHolds(true);
        return held;
      })
      .catch(() => undefined);
    return () => {
      over.abort();
      setHolds(false);
    };
  }, [baking, audible]);
  return holds;
}

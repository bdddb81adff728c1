import { useEffect, useRef, useState } from "react";

const TWICE_MS = 350;

/** Whether "done" was pressed just now: a finger that bounces does not do the next job, too. */
export function useTwice(): [boolean, () => void] {
  const [twice, setTwice] = useState(false);
  useEffect(() => {
    if (!twice) return;
    const timer = setTimeout(() => setTwice(false), TWICE_MS);
    return () => clearTimeout(timer);
  }, [twice]);
  return [twice, () => setTwice(true)];
}

/** Keep the screen awake while something is baked, where the browser can. */
export function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const hold = async () => {
      if (document.visibilityState !== "visible") return;
      try {
        lock = await navigator.wakeLock.request("screen");
        if (over) await lock.release();
      } catch {
        // A flat battery refuses it; the session goes on.
      }
    };
    void hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      over = true;
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, [on]);
}

/** The whole screen for the companion: no bars of the browser, no stages. */
export function useWholeScreen(): [boolean, () => void] {
  const [whole, setWhole] = useState(false);
  useEffect(() => {
    const root = document.documentElement;
    if (whole) root.dataset.whole = "screen";
    const left = () => {
      if (!document.fullscreenElement) setWhole(false);
    };
    document.addEventListener("fullscreenchange", left);
    return () => {
      delete root.dataset.whole;
      document.removeEventListener("fullscreenchange", left);
    };
  }, [whole]);
  const turn = () => {
    window.scrollTo({ top: 0 });
    if (whole) {
      if (document.fullscreenElement) void document.exitFullscreen();
      setWhole(false);
    } else {
      document.documentElement.requestFullscreen?.().catch(() => undefined);
      setWhole(true);
    }
  };
  return [whole, turn];
}

/** Keys that press what is on the screen, wherever the focus is but in another control. */
export function useKeys(presses: Record<string, (() => void) | undefined>): void {
  const latest = useRef(presses);
  latest.current = presses;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      // What was moved by its own keys has taken them.
      if (event.defaultPrevented || event.repeat || event.ctrlKey || event.metaKey || event.altKey)
        return;
      const typing = target.closest("input, select, textarea");
      const pressing = event.key === " " && target.closest("button, a, summary");
      const press = latest.current[event.key];
      if (!press || typing || pressing) return;
      event.preventDefault();
      press();
    };
    // A finger that pressed something else leaves no focus there: space stays the large button.
    const onClick = (event: MouseEvent) => {
      const pressed = (event.target as HTMLElement).closest<HTMLElement | SVGElement>(
        "button, [role=button]",
      );
      if (event.detail > 0 && pressed) pressed.blur();
    };
    window.addEventListener("keydown", onKey);
    window.addEventListener("click", onClick);
    return () => {
      window.removeEventListener("keydown", onKey);
      window.removeEventListener("click", onClick);
    };
  }, []);
}

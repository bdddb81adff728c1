import { useRef, useState } from "react";

/** What is changed within so short a time (a drag, a figure typed) is taken back as one. */
const AT_ONCE_MS = 1000;
const MOST = 50;

/** What a screen was set to before, from change to change, while it is open: `note` it before each
 * change; the press puts back what was there before the last. Changes that come within `atOnceMs` of each other are one. */
export function useTakeBack<T>(put: (before: T) => void, atOnceMs = AT_ONCE_MS) {
  const [past, setPast] = useState<readonly T[]>([]);
  const noted = useRef(0);
  const note = (before: T) => {
    const now = Date.now();
    if (now - noted.current > atOnceMs) setPast((all) => [...all, before].slice(-MOST));
    noted.current = now;
  };
  const back = () => {
    const before = past.at(-1);
    if (before === undefined) return;
    setPast(past.slice(0, -1));
    noted.current = 0;
    put(before);
  };
  const press = (
    <button type="button" className="press min-h-9" disabled={past.length === 0} onClick={back}>
      Take back
    </button>
  );
  return { note, back, press };
}

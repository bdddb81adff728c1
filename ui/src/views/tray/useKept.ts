import { useEffect, useRef, useState } from "react";

const PAUSE_MS = 300;

/** A value that can be changed at once and is kept by itself shortly after. */
export function useKept<T>(initial: T, keep: (value: T) => Promise<unknown>) {
  const [value, setValue] = useState(initial);
  const [problem, setProblem] = useState<Error | null>(null);
  const kept = useRef(initial);
  const latest = useRef(initial);
  const keeping = useRef(keep);
  latest.current = value;
  keeping.current = keep;

  useEffect(() => {
    if (value === kept.current) return;
    const timer = setTimeout(() => {
      keeping.current(value).then(
        () => {
          kept.current = value;
          setProblem(null);
        },
        (error: Error) => setProblem(error),
      );
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [value]);

  // Leaving the screen does not wait for the pause.
  useEffect(
    () => () => {
      if (latest.current !== kept.current) void keeping.current(latest.current).catch(() => {});
    },
    [],
  );

  return [value, setValue, problem] as const;
}

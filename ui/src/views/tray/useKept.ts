import { useEffect, useRef, useState } from "react";
import { untilKept } from "../../api/untilKept";
import { forgetSame, remember, remembered } from "../../logic/remembered";

const PAUSE_MS = 300;

/** A value that can be changed at once and is kept by itself shortly after. */
export function useKept<T>(name: string, initial: T, keep: (value: T) => Promise<unknown>) {
  const [value, setValue] = useState(() => remembered(name, initial));
  const [problem, setProblem] = useState<Error | null>(null);
  const kept = useRef(initial);
  const latest = useRef(initial);
  const keeping = useRef(keep);
  const saving = useRef<Promise<unknown>>(Promise.resolve());
  latest.current = value;
  keeping.current = keep;

  useEffect(() => {
    if (value === kept.current) return;
    remember(name, value, kept.current);
    const timer = setTimeout(() => {
      // One after the other: what was set last is what stays.
      saving.current = saving.current
        .then(() =>
          untilKept(
            () => keeping.current(value),
            setProblem,
            async () => {},
          ),
        )
        .then(
          () => {
            kept.current = value;
            forgetSame(name, value);
            setProblem(null);
          },
          (error: Error) => setProblem(error),
        );
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [value, name]);

  // Leaving the screen does not wait for the pause.
  useEffect(
    () => () => {
      const value = latest.current;
      if (value !== kept.current)
        void saving.current
          .then(() =>
            untilKept(
              () => keeping.current(value),
              () => {},
              async () => {},
            ),
          )
          .then(() => forgetSame(name, value))
          .catch(() => {});
    },
    [name],
  );

  return [value, setValue, problem] as const;
}

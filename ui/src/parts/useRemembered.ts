import { type Dispatch, type SetStateAction, useCallback, useRef, useState } from "react";
import { remember, remembered } from "../logic/remembered";

/** A state that outlives a reload and leaving the screen, until it is what it was at first. */
export function useRemembered<T>(
  name: string,
  usual: T | (() => T),
): [T, Dispatch<SetStateAction<T>>] {
  const [first] = useState(usual);
  const [value, setValue] = useState(() => remembered(name, first));
  const place = useRef({ name, first });
  const set = useCallback((next: SetStateAction<T>) => {
    setValue((now) => {
      const then = typeof next === "function" ? (next as (now: T) => T)(now) : next;
      remember(place.current.name, then, place.current.first);
      return then;
    });
  }, []);
  return [value, set];
}

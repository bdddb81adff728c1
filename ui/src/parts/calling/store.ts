import { useSyncExternalStore } from "react";

/** A value of this window that several parts of the screen look at. */
export interface Store<T> {
  get: () => T;
  set: (value: T) => void;
  subscribe: (hear: () => void) => () => void;
}

export function store<T>(first: T): Store<T> {
  let value = first;
  const hearers = new Set<() => void>();
  return {
    get: () => value,
    set: (next) => {
      if (Object.is(next, value)) return;
      value = next;
      for (const hear of hearers) hear();
    },
    subscribe: (hear) => {
      hearers.add(hear);
      return () => hearers.delete(hear);
    },
  };
}

export const useStored = <T>({ subscribe, get }: Store<T>): T =>
  useSyncExternalStore(subscribe, get);

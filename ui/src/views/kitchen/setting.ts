import type { Kitchen } from "../../api/client";

export type Planning = Kitchen["planning"];
export type Nature = Planning["oven"];

/** What every part of the Kitchen screen gets: the kitchen, and how to change it. */
export interface KitchenPart {
  kitchen: Kitchen;
  set: (part: Partial<Kitchen>) => void;
  plan: (part: Partial<Planning>) => void;
  fault: (field: string) => string | undefined;
}

/** A name that nothing in the list has yet. */
export function freshName(name: string, taken: readonly { name: string }[]): string {
  const names = new Set(taken.map((t) => t.name));
  if (!names.has(name)) return name;
  let n = 2;
  while (names.has(`${name} ${n}`)) n += 1;
  return `${name} ${n}`;
}

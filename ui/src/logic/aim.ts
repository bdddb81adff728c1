/** What is wished of a piece, as the fields and the drawing have it. */

import type { Schemas } from "../api/client";

export type Aim = Schemas["Aim"];
export type Reached = Schemas["Reached"];
export type Way = Schemas["WayThere"];
export type Comes = Schemas["Comes"];
type Sense = NonNullable<Schemas["Wished"]["sense"]>;

/** The figures that are wished about, at most or at least. */
export type Figure = "width_mm" | "height_mm" | "minutes";

export const SENSES = [
  ["about", "about"],
  ["at_most", "at most"],
  ["at_least", "at least"],
] as const satisfies readonly (readonly [Sense, string])[];

export const NO_WISH: Aim = { without: [], from_house: false };

const isNothing = (wish: unknown): boolean =>
  wish === null || wish === undefined || wish === false || (Array.isArray(wish) && !wish.length);

/** Whether nothing is wished yet. */
export const isEmpty = (aim: Aim): boolean => Object.values(aim).every(isNothing);

/** The wish with one thing of it changed; what is empty is wished no more. */
export function wished<K extends keyof Aim>(aim: Aim, key: K, value: Aim[K] | null): Aim {
  const { [key]: _, ...rest } = aim;
  return { ...NO_WISH, ...rest, ...(isNothing(value) ? {} : { [key]: value }) };
}

/** The wish with a figure of it set; its sense stays. */
export const withFigure = (aim: Aim, key: Figure, figure: number | null): Aim =>
  wished(aim, key, figure === null ? null : { sense: aim[key]?.sense ?? "about", figure });

/** The wish with how a figure is meant. */
export function withSense(aim: Aim, key: Figure, sense: Sense): Aim {
  const now = aim[key];
  return now ? wished(aim, key, { ...now, sense }) : aim;
}

/** The wish with or without one of the things that it may be without. */
export function withoutToo(aim: Aim, one: NonNullable<Aim["without"]>[number]): Aim {
  const now = aim.without ?? [];
  const next = now.includes(one) ? now.filter((other) => other !== one) : [...now, one];
  return wished(aim, "without", next);
}

/** What each way is for, in a word. */
export const WAY_TITLES: Record<Way["key"], string> = {
  least: "Least change",
  house: "From the house",
  fewest: "Fewest steps",
  another_swap: "Another swap",
  dough_as_it_is: "The dough as it is",
  piece_as_it_is: "The piece as it is",
  tray_as_it_is: "Only amounts",
  something_else: "Something else",
};

/** The ways with their titles; of a second one of a kind as well. */
export const titled = (ways: Way[]): { way: Way; title: string }[] =>
  ways.map((way, n) => {
    const again = ways.slice(0, n).some(({ key }) => key === way.key);
    return { way, title: `${WAY_TITLES[way.key]}${again ? ", a second one" : ""}` };
  });

/** How sure it is that a piece is as wide as wished, in words. */
export function sureness(likely: number | null): string {
  if (likely === null) return "";
  const tenths = Math.round(likely * 10);
  if (tenths < 1) return "hardly any piece comes out so wide";
  if (tenths > 9) return "nearly every piece comes out so wide";
  return `about ${tenths} in 10 come out so wide`;
}

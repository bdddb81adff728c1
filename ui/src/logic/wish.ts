import type { BakingSession, Kitchen, Schemas } from "../api/client";

export type Wish = Schemas["Wish"];

const QUARTER_MS = 900_000;
/** Planning takes a moment, and so does getting up. */
const AT_LEAST_MS = 300_000;

/** The next quarter of an hour, and at least some minutes from then. */
export const nextQuarter = (ms: number): number =>
  Math.ceil((ms + AT_LEAST_MS) / QUARTER_MS) * QUARTER_MS;

/** What is wished of the session, with as many sheets and shelves as the kitchen has now. */
export const wishOf = (plan: BakingSession | null, kitchen: Kitchen): Wish => ({
  ...(plan?.wish ?? { items: [], away: [], pins: [], shelf_pins: [] }),
  sheets: kitchen.sheets,
  shelves: kitchen.shelves,
});

/** The wish with one more dough; null where there is none to join, or it is in it. */
export function joinedBy(joining: number | null, wish: Wish): Wish | null {
  if (joining === null || wish.items.some((i) => i.dough_id === joining)) return null;
  return { ...wish, items: [...wish.items, { dough_id: joining, joins: "fresh" }], pins: [] };
}

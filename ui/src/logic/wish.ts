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
  ...(plan?.wish ?? { items: [], away: [], pins: [], shelf_pins: [], calm: false }),
  sheets: kitchen.sheets,
  shelves: kitchen.shelves,
});

/** All of a dough, mixed in the session. */
export const wholeDough = (dough_id: number): Wish["items"][number] => ({
  dough_id,
  joins: "fresh",
  times: 1,
});

/** The wish with one more dough; null where there is none to join, or it is in it. */
export function joinedBy(joining: number | null, wish: Wish): Wish | null {
  if (joining === null || wish.items.some((i) => i.dough_id === joining)) return null;
  return { ...wish, items: [...wish.items, wholeDough(joining)] };
}

type Named = Pick<BakingSession, "doughs" | "activities" | "trays">;

/** The wish with other doughs, and how many pins fall away with that: those of a dough that is as it
 * was, at its place, stay. */
export function withItems(
  wish: Wish,
  items: Wish["items"],
  plan: Named | null,
): { wish: Wish; fallen: number } {
  const same = new Set(
    (plan?.doughs ?? [])
      .filter((_, n) => JSON.stringify(wish.items[n]) === JSON.stringify(items[n]))
      .map((dough) => dough.letter),
  );
  const stays = (letter: string | null | undefined) => letter != null && same.has(letter);
  const pins = wish.pins.filter((pin) =>
    stays(plan?.activities.find((job) => job.key === pin.job)?.dough),
  );
  const shelf_pins = wish.shelf_pins.filter((pin) =>
    stays(plan?.trays.find((tray) => tray.name === pin.tray)?.dough),
  );
  const before = wish.pins.length + wish.shelf_pins.length;
  return {
    wish: { ...wish, items, pins, shelf_pins },
    fallen: before - pins.length - shelf_pins.length,
  };
}

import { expect, it } from "vitest";
import { joinedBy, type Wish, wholeDough, withItems } from "../../src/logic/wish";

const WISH: Wish = {
  sheets: 2,
  shelves: 2,
  items: [
    { dough_id: 1, joins: "fresh", times: 1 },
    { dough_id: 2, joins: "fresh", times: 1, pieces: 12 },
    { dough_id: 3, joins: "fridge", times: 1 },
  ],
  away: [],
  calm: false,
  pins: [
    { job: "A1.load", start_at: 1 },
    { job: "B.mix", start_at: 2 },
  ],
  shelf_pins: [{ tray: "C1", shelf: 2 }],
};
const PLAN = {
  doughs: ["A", "B", "C"].map((letter) => ({ letter })),
  activities: [
    { key: "A1.load", dough: "A" },
    { key: "B.mix", dough: "B" },
  ],
  trays: [{ name: "C1", dough: "C" }],
} as unknown as Parameters<typeof withItems>[2];

it("keeps the pins of doughs that stay as they are at their place", () => {
  const more = [...WISH.items, wholeDough(9)];
  expect(withItems(WISH, more, PLAN)).toEqual({ wish: { ...WISH, items: more }, fallen: 0 });
});

it("drops those of a dough that is changed, or stands elsewhere now, and counts them", () => {
  const fewer = WISH.items.map((item, n) => (n === 1 ? { ...item, pieces: 6 } : item));
  const changed = withItems(WISH, fewer, PLAN);
  expect(changed.fallen).toBe(1);
  expect(changed.wish.pins).toEqual([WISH.pins[0]]);
  expect(changed.wish.shelf_pins).toEqual(WISH.shelf_pins);
  const without = withItems(WISH, WISH.items.slice(1), PLAN);
  expect(without.fallen).toBe(3);
  expect(withItems(WISH, WISH.items, null).fallen).toBe(3);
});

it("keeps what is pinned when a dough joins", () => {
  expect(joinedBy(9, WISH)?.pins).toEqual(WISH.pins);
  expect(joinedBy(3, WISH)).toBeNull();
});

import { describe, expect, it } from "vitest";
import type { Dough } from "../../src/api/client";
import { BLANK, type Change, draftOf, NEW_DOUGH, reduce } from "../../src/logic/draft";
import { halfOf } from "../../src/logic/moving";

const line = (ingredient: string, amount = "1") => ({ ...BLANK, ingredient, amount });
const part = (kind: "wash" | "icing", ...of: string[]) => ({
  kind,
  name: kind,
  lines: of.map((key) => line(key)),
  per_piece_g: 3,
});
const start = draftOf({
  card: {
    ...NEW_DOUGH,
    lines: [line("flour_ap"), line("egg_whole"), line("sugar_white")],
    parts: [part("wash", "milk"), part("icing", "lemon_juice", "water")],
  },
} as unknown as Dough);
const [flour = -1, egg = -1, sugar = -1] = start.card.lines.map((one) => one.id);
const [wash = -1, icing = -1] = start.card.parts.map((one) => one.id);
const [milk = -1] = start.card.parts[0]?.lines.map((one) => one.id) ?? [];
const moves = (...changes: Change[]) => changes.reduce(reduce, start).card;
const laid = (card: ReturnType<typeof moves>) => [
  card.lines.map((one) => one.ingredient),
  ...card.parts.map((one) => [one.kind, ...one.lines.map((own) => own.ingredient)]),
];

describe("a line that goes elsewhere", () => {
  it("keeps its name, and stands where it is dropped", () => {
    const card = moves({ do: "moveLine", id: sugar, to: icing, at: 1 });
    expect(laid(card)).toEqual([
      ["flour_ap", "egg_whole"],
      ["wash", "milk"],
      ["icing", "lemon_juice", "sugar_white", "water"],
    ]);
    expect(card.parts[1]?.lines[1]?.id).toBe(sugar);
    expect(laid(moves({ do: "moveLine", id: flour, to: "dough", at: 2 }))[0]).toEqual([
      "egg_whole",
      "flour_ap",
      "sugar_white",
    ]);
  });

  it("begins a part of its kind where there is none, and ends one that it leaves empty", () => {
    const card = moves(
      { do: "moveLine", id: flour, to: "bench" },
      { do: "moveLine", id: milk, to: "dough" },
    );
    expect(laid(card)).toEqual([
      ["egg_whole", "sugar_white", "milk"],
      ["icing", "lemon_juice", "water"],
      ["bench", "flour_ap"],
    ]);
    expect(card.parts[1]?.per_piece_g).toBe(0);
  });

  it("goes back with one step", () => {
    const moved = reduce(start, { do: "moveLine", id: sugar, to: "coating" });
    expect(reduce(moved, { do: "undo" }).card).toBe(start.card);
  });

  it("stays where it goes nowhere", () => {
    for (const change of [
      { do: "moveLine", id: milk, to: wash, at: 1 },
      { do: "moveLine", id: -5, to: "dough" },
      { do: "moveLine", id: flour, to: -5 },
      { do: "stepLine", id: flour, by: -1 },
      { do: "stepLine", id: -5, by: 1 },
    ] as Change[])
      expect(laid(moves(change)).flat()).toEqual(expect.arrayContaining(laid(start.card).flat()));
  });

  it("steps out of its list into the next, and back", () => {
    const down = moves({ do: "stepLine", id: sugar, by: 1 });
    expect(laid(down).slice(0, 2)).toEqual([
      ["flour_ap", "egg_whole"],
      ["wash", "sugar_white", "milk"],
    ]);
    const back = moves({ do: "stepLine", id: sugar, by: 1 }, { do: "stepLine", id: sugar, by: -1 });
    expect(laid(back)).toEqual(laid(start.card));
    expect(laid(moves({ do: "stepLine", id: flour, by: 1 }))[0]?.[1]).toBe("flour_ap");
  });
});

describe("a line of two uses", () => {
  it("is halved: one egg for the dough and the wash", () => {
    const card = moves({ do: "splitLine", id: egg, to: wash });
    expect(card.lines[1]?.amount).toBe("1/2");
    expect(card.parts[0]?.lines.map((one) => [one.ingredient, one.amount])).toEqual([
      ["milk", "1"],
      ["egg_whole", "1/2"],
    ]);
  });

  it.each([
    ["1", "1/2"],
    ["2", "1"],
    ["3", "1 1/2"],
    ["1/2", "1/4"],
    ["1 1/2", "0.75"],
    ["0,5", "0.25"],
    ["250", "125"],
  ])("half of %s is %s", (amount, half) => expect(halfOf(amount)).toBe(half));

  it.each(["", "a pinch", "2-3", "0", "1/0"])("there is no half of “%s”", (amount) =>
    expect(halfOf(amount)).toBeNull(),
  );
});

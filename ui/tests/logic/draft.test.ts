import { describe, expect, it } from "vitest";
import type { Dough } from "../../src/api/client";
import {
  BLANK,
  type Change,
  cardOf,
  type Draft,
  draftOf,
  NEW_DOUGH,
  plainCard,
  reduce,
} from "../../src/logic/draft";

const line = (ingredient: string) => ({ ...BLANK, ingredient, amount: "100" });
const start = (): Draft =>
  draftOf({
    card: { ...NEW_DOUGH, lines: ["flour_ap", "butter_unsalted", "sugar_white"].map(line) },
  } as unknown as Dough);
const make = (draft: Draft, ...changes: Change[]) => changes.reduce(reduce, draft);
const names = (draft: Draft) => draft.card.lines.map((one) => one.ingredient);
const id = (draft: Draft, place: number) => draft.card.lines[place]?.id ?? -1;

describe("the lines of a card", () => {
  it("keep their names when they are moved, and stay within the card", () => {
    const draft = start();
    const down = reduce(draft, { do: "move", id: id(draft, 0), by: 1 });
    expect(names(down)).toEqual(["butter_unsalted", "flour_ap", "sugar_white"]);
    expect(id(down, 1)).toBe(id(draft, 0));
    expect(names(reduce(draft, { do: "move", id: id(draft, 0), by: -1 }))).toEqual(names(draft));
  });

  it("are added, pasted, changed and taken away", () => {
    const draft = start();
    const more = make(draft, { do: "add" }, { do: "paste", lines: [line("salt"), line("oats")] });
    expect(names(more)).toEqual([...names(draft), null, "salt", "oats"]);
    const less = reduce(more, { do: "remove", id: id(more, 3) });
    expect(names(less)).toEqual([...names(draft), "salt", "oats"]);
    const other = reduce(less, { do: "line", id: id(less, 0), part: { amount: "250" } });
    expect(other.card.lines[0]?.amount).toBe("250");
    expect(other.card.lines[1]).toBe(less.card.lines[1]);
  });
});

describe("a step back", () => {
  it("takes back one change, and forth makes it again", () => {
    const draft = start();
    const changed = make(draft, { do: "add" }, { do: "write", part: { name: "Other" } });
    const back = reduce(changed, { do: "undo" });
    expect(back.card.name).toBe(NEW_DOUGH.name);
    expect(back.card.lines).toHaveLength(4);
    expect(reduce(back, { do: "redo" }).card).toBe(changed.card);
    expect(make(changed, { do: "undo" }, { do: "undo" }).card).toBe(draft.card);
  });

  it("is one for all typing in the same field", () => {
    const draft = start();
    const typed = ["O", "Ot", "Oth"].map((name): Change => ({ do: "write", part: { name } }));
    expect(reduce(make(draft, ...typed), { do: "undo" }).card).toBe(draft.card);
    const two = make(
      draft,
      { do: "write", part: { name: "O" } },
      { do: "write", part: { note: "n" } },
    );
    expect(reduce(two, { do: "undo" }).card.name).toBe("O");
  });

  it("leads nowhere from the first and from the last, and no change is made again after another", () => {
    const draft = start();
    expect(reduce(draft, { do: "undo" })).toBe(draft);
    expect(reduce(draft, { do: "redo" })).toBe(draft);
    const other = make(draft, { do: "add" }, { do: "undo" }, { do: "write", part: { name: "x" } });
    expect(other.future).toEqual([]);
  });

  it("goes back two hundred changes", () => {
    let draft = start();
    for (let n = 0; n < 250; n++) draft = reduce(draft, { do: "add" });
    expect(draft.past).toHaveLength(200);
  });
});

describe("parts and pasted cards", () => {
  it("keep lines of their own", () => {
    const draft = reduce(start(), { do: "addPart", kind: "icing", name: "lemon icing" });
    const part = draft.card.parts[0];
    const filled = reduce(draft, { do: "inPart", id: part?.id ?? -1, change: { do: "add" } });
    expect(filled.card.parts[0]?.lines).toHaveLength(1);
    expect(filled.card.lines).toHaveLength(3);
    expect(reduce(filled, { do: "removePart", id: part?.id ?? -1 }).card.parts).toEqual([]);
  });

  it("join what is there, and a name or oven that was not read stays", () => {
    const named = reduce(start(), { do: "write", part: { name: "Mine", stated_oven: "180 °C" } });
    const taken = reduce(named, {
      do: "take",
      card: { name: "", lines: [line("oats")], note: "from a tin" },
    });
    expect([taken.card.name, taken.card.stated_oven, taken.card.note]).toEqual([
      "Mine",
      "180 °C",
      "from a tin",
    ]);
    expect(taken.card.lines).toHaveLength(4);
    expect(reduce(named, { do: "take", card: { name: "Theirs" } }).card.name).toBe("Theirs");
  });

  it("say why a card was replaced, until the next change", () => {
    const replaced = reduce(start(), { do: "replace", card: NEW_DOUGH, reason: "scaled" });
    expect(replaced.reason).toBe("scaled");
    expect(reduce(replaced, { do: "add" }).reason).toBe("");
  });
});

it("goes to the server without the names of its lines, and comes back the same", () => {
  const plain = plainCard(start().card);
  expect(plain.lines.every((one) => !("id" in one))).toBe(true);
  expect(plainCard(cardOf(plain))).toEqual(plain);
});

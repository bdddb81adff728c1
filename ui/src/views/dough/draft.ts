import type { Dough, Line, Schemas } from "../../api/client";

/** A line with a name of its own, so that it keeps its place on the screen when moved. */
export interface DraftLine extends Line {
  id: number;
}

export interface Card {
  name: string;
  family: Schemas["CardBody"]["family"];
  mixing: NonNullable<Schemas["CardBody"]["mixing"]>;
  lines: DraftLine[];
}

export interface Draft {
  card: Card;
  past: Card[];
  future: Card[];
  /** What was changed last: more typing in the same field is one step back, not many. */
  touched: string;
}

export type Change =
  | { do: "write"; part: Partial<Omit<Card, "lines">> }
  | { do: "line"; id: number; part: Partial<Line> }
  | { do: "add" }
  | { do: "paste"; lines: Line[] }
  | { do: "remove"; id: number }
  | { do: "move"; id: number; by: -1 | 1 }
  | { do: "undo" }
  | { do: "redo" };

const MOST_STEPS = 200;
let lastId = 0;

const withId = (line: Line): DraftLine => {
  lastId += 1;
  return { ...line, id: lastId };
};

export const draftOf = (dough: Dough): Draft => ({
  card: {
    name: dough.name,
    family: dough.family,
    mixing: dough.mixing,
    lines: dough.lines.map(withId),
  },
  past: [],
  future: [],
  touched: "",
});

export const plainLines = (card: Card): Line[] =>
  card.lines.map(({ amount, unit, ingredient }) => ({ amount, unit, ingredient }));

function moved(lines: DraftLine[], id: number, by: number): DraftLine[] {
  const from = lines.findIndex((line) => line.id === id);
  const to = from + by;
  const line = lines[from];
  if (!line || to < 0 || to >= lines.length) return lines;
  const rest = lines.filter((other) => other.id !== id);
  return [...rest.slice(0, to), line, ...rest.slice(to)];
}

function changed(card: Card, change: Change): Card {
  switch (change.do) {
    case "write":
      return { ...card, ...change.part };
    case "line":
      return {
        ...card,
        lines: card.lines.map((line) =>
          line.id === change.id ? { ...line, ...change.part } : line,
        ),
      };
    case "add":
      return {
        ...card,
        lines: [...card.lines, withId({ amount: "", unit: "g", ingredient: null })],
      };
    case "paste":
      return { ...card, lines: [...card.lines, ...change.lines.map(withId)] };
    case "remove":
      return { ...card, lines: card.lines.filter((line) => line.id !== change.id) };
    case "move":
      return { ...card, lines: moved(card.lines, change.id, change.by) };
    default:
      return card;
  }
}

const touch = (change: Change): string =>
  change.do === "line"
    ? `${change.id}.${Object.keys(change.part).join()}`
    : change.do === "write"
      ? Object.keys(change.part).join()
      : "";

/** The draft after a change, with the steps back and forth kept. */
export function reduce(draft: Draft, change: Change): Draft {
  const { card, past, future } = draft;
  if (change.do === "undo") {
    const before = past.at(-1);
    if (!before) return draft;
    return { card: before, past: past.slice(0, -1), future: [card, ...future], touched: "" };
  }
  if (change.do === "redo") {
    const after = future[0];
    if (!after) return draft;
    return { card: after, past: [...past, card], future: future.slice(1), touched: "" };
  }
  const next = changed(card, change);
  const touched = touch(change);
  const same = touched !== "" && touched === draft.touched;
  return {
    card: next,
    past: same ? past : [...past, card].slice(-MOST_STEPS),
    future: [],
    touched,
  };
}

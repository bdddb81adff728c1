import {
  type Card,
  type DraftLine,
  type DraftPart,
  nextId,
  type PartKind,
  usualPiece,
} from "./draftCard";

/** Where a line stands: in the dough, in a part by its number, or in one of that kind. */
export type Home = "dough" | number | PartKind;

/** A line that goes from the dough or a part to another, all of it or half. */
export type Moving =
  | { do: "moveLine"; id: number; to: Home; at?: number }
  | { do: "splitLine"; id: number; to: Home }
  | { do: "stepLine"; id: number; by: -1 | 1 };

/** The card with one of its parts changed. */
export const inParts = (card: Card, id: number, change: (part: DraftPart) => DraftPart): Card => ({
  ...card,
  parts: card.parts.map((part) => (part.id === id ? change(part) : part)),
});

const homeOf = (card: Card, id: number): "dough" | number | null =>
  card.lines.some((line) => line.id === id)
    ? "dough"
    : (card.parts.find((part) => part.lines.some((line) => line.id === id))?.id ?? null);

const linesAt = (card: Card, home: "dough" | number): DraftLine[] =>
  home === "dough" ? card.lines : (card.parts.find((part) => part.id === home)?.lines ?? []);

const put = (lines: DraftLine[], line: DraftLine, at = lines.length): DraftLine[] => [
  ...lines.slice(0, at),
  line,
  ...lines.slice(at),
];

/** A line put where it belongs; a part of a kind that is not there yet is begun. */
function placed(card: Card, line: DraftLine, to: Home, at?: number): Card {
  if (to === "dough") return { ...card, lines: put(card.lines, line, at) };
  const part = card.parts.find((one) => one.id === to || one.kind === to);
  if (part) return inParts(card, part.id, (own) => ({ ...own, lines: put(own.lines, line, at) }));
  if (typeof to === "number") return card;
  const begun = { id: nextId(), kind: to, name: to, lines: [line], per_piece_g: usualPiece(to) };
  return { ...card, parts: [...card.parts, begun] };
}

/** The card without a line; a part that it leaves empty goes with it. */
const without = (card: Card, id: number): Card => ({
  ...card,
  lines: card.lines.filter((line) => line.id !== id),
  parts: card.parts
    .map((part) => ({ ...part, lines: part.lines.filter((line) => line.id !== id) }))
    .filter((part, n) => part.lines.length > 0 || card.parts[n]?.lines.length === 0),
});

function movedTo(card: Card, id: number, to: Home, at?: number): Card {
  const home = homeOf(card, id);
  const lines = home === null ? [] : linesAt(card, home);
  const from = lines.findIndex((line) => line.id === id);
  const line = lines[from];
  if (!line) return card;
  // Within its own list it leaves a gap behind.
  const below = home === to && at !== undefined && from < at ? at - 1 : at;
  const rest = without(card, id);
  // Where a part is gone, with its last line or before, the line stays where it was.
  const there = typeof to !== "number" || rest.parts.some((part) => part.id === to);
  return there ? placed(rest, line, to, below) : card;
}

/** What half of an amount is written as; none where it is no plain number. */
export function halfOf(amount: string): string | null {
  const found = amount.trim().match(/^(\d+(?:[.,]\d+)?)?\s*(?:(\d+)\/(\d+))?$/);
  if (!found || amount.trim() === "") return null;
  const [, whole, top, bottom] = found;
  const number =
    Number((whole ?? "0").replace(",", ".")) + (top ? Number(top) / Number(bottom) : 0);
  if (!Number.isFinite(number) || number <= 0) return null;
  if (Number.isInteger(number)) return number % 2 ? halves(number) : String(number / 2);
  return top && !whole ? `${top}/${2 * Number(bottom)}` : String(Math.round(500 * number) / 1000);
}

const halves = (odd: number): string => (odd === 1 ? "1/2" : `${(odd - 1) / 2} 1/2`);

function split(card: Card, id: number, to: Home): Card {
  const home = homeOf(card, id);
  const line = home !== null && linesAt(card, home).find((one) => one.id === id);
  const amount = line && halfOf(line.amount);
  if (!line || !amount) return card;
  const left = { ...line, amount };
  const kept = (lines: DraftLine[]) => lines.map((one) => (one.id === id ? left : one));
  const halved = {
    ...card,
    lines: kept(card.lines),
    parts: card.parts.map((part) => ({ ...part, lines: kept(part.lines) })),
  };
  return placed(halved, { ...left, id: nextId() }, to);
}

/** One up or down in the whole card, out of its list into the next. */
function stepped(card: Card, id: number, by: -1 | 1): Card {
  const home = homeOf(card, id);
  if (home === null) return card;
  const lines = linesAt(card, home);
  const to = lines.findIndex((line) => line.id === id) + by;
  if (to >= 0 && to < lines.length) return movedTo(card, id, home, by > 0 ? to + 1 : to);
  const homes: ("dough" | number)[] = ["dough", ...card.parts.map((part) => part.id)];
  const next = homes[homes.indexOf(home) + by];
  if (next === undefined) return card;
  return movedTo(card, id, next, by > 0 ? 0 : linesAt(card, next).length);
}

/** The card once a line has moved. */
export function afterMoving(card: Card, change: Moving): Card {
  switch (change.do) {
    case "moveLine":
      return movedTo(card, change.id, change.to, change.at);
    case "splitLine":
      return split(card, change.id, change.to);
    case "stepLine":
      return stepped(card, change.id, change.by);
  }
}

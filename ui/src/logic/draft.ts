import type { Dough, Line } from "../api/client";
import {
  BLANK,
  type Card,
  type CardBody,
  cardOf,
  type DraftLine,
  type DraftPart,
  nextId,
  type PartKind,
  partOf,
  usualPiece,
  withId,
} from "./draftCard";
import { afterMoving, inParts, type Moving } from "./moving";

export * from "./draftCard";

export interface Draft {
  card: Card;
  past: Card[];
  future: Card[];
  /** What was changed last: more typing in the same field is one step back, not many. */
  touched: string;
  /** Why the change was made, when that makes it a version of its own. */
  reason: string;
}

export type LineChange =
  | { do: "line"; id: number; part: Partial<Line> }
  | { do: "add" }
  | { do: "paste"; lines: Line[] }
  | { do: "remove"; id: number }
  | { do: "move"; id: number; by: -1 | 1 };

export type Change =
  | LineChange
  | Moving
  | { do: "write"; part: Partial<Omit<Card, "lines" | "parts">>; touch?: string }
  | { do: "inPart"; id: number; change: LineChange }
  | { do: "part"; id: number; part: Partial<Omit<DraftPart, "id" | "lines">> }
  | { do: "addPart"; kind: PartKind; name: string; lines?: Line[] }
  | { do: "removePart"; id: number }
  | { do: "replace"; card: CardBody; reason: string }
  | { do: "take"; card: Partial<CardBody> }
  | { do: "undo" }
  | { do: "redo" };

const MOST_STEPS_BACK = 200;
export const draftOf = (dough: Dough): Draft => ({
  card: cardOf(dough.card),
  past: [],
  future: [],
  touched: "",
  reason: "",
});

function moved(lines: DraftLine[], id: number, by: number): DraftLine[] {
  const from = lines.findIndex((line) => line.id === id);
  const to = from + by;
  const line = lines[from];
  if (!line || to < 0 || to >= lines.length) return lines;
  const rest = lines.filter((other) => other.id !== id);
  return [...rest.slice(0, to), line, ...rest.slice(to)];
}

function changedLines(lines: DraftLine[], change: LineChange): DraftLine[] {
  switch (change.do) {
    case "line":
      return lines.map((line) => (line.id === change.id ? { ...line, ...change.part } : line));
    case "add":
      return [...lines, withId(BLANK)];
    case "paste":
      return [...lines, ...change.lines.map(withId)];
    case "remove":
      return lines.filter((line) => line.id !== change.id);
    case "move":
      return moved(lines, change.id, change.by);
  }
}

/** What was read from a pasted card joins what is there. */
function taken(card: Card, read: Partial<CardBody>): Card {
  return {
    ...card,
    ...(read.name ? { name: read.name } : {}),
    ...(read.family ? { family: read.family } : {}),
    ...(read.mixing ? { mixing: read.mixing } : {}),
    lines: [...card.lines, ...(read.lines ?? []).map(withId)],
    steps: [...card.steps, ...(read.steps ?? [])],
    parts: [...card.parts, ...(read.parts ?? []).map(partOf)],
    stated_pieces: read.stated_pieces ?? card.stated_pieces,
    stated_width_mm: read.stated_width_mm ?? card.stated_width_mm,
    stated_oven: read.stated_oven || card.stated_oven,
    note: [card.note, read.note].filter(Boolean).join("\n"),
  };
}

function changed(card: Card, change: Change): Card {
  switch (change.do) {
    case "write":
      return { ...card, ...change.part };
    case "inPart":
      return inParts(card, change.id, (part) => ({
        ...part,
        lines: changedLines(part.lines, change.change),
      }));
    case "part":
      return inParts(card, change.id, (part) => ({ ...part, ...change.part }));
    case "addPart": {
      const lines = (change.lines ?? []).map(withId);
      const { kind, name } = change;
      const part = { id: nextId(), kind, name, lines, per_piece_g: usualPiece(kind) };
      return { ...card, parts: [...card.parts, part] };
    }
    case "removePart":
      return { ...card, parts: card.parts.filter((part) => part.id !== change.id) };
    case "moveLine":
    case "splitLine":
    case "stepLine":
      return afterMoving(card, change);
    case "replace":
      return cardOf(change.card);
    case "take":
      return taken(card, change.card);
    case "undo":
    case "redo":
      return card;
    default:
      return { ...card, lines: changedLines(card.lines, change) };
  }
}

const touch = (change: Change): string => {
  switch (change.do) {
    case "line":
      return `${change.id}.${Object.keys(change.part).join()}`;
    case "inPart":
      return touch(change.change);
    case "part":
      return `part ${change.id}.${Object.keys(change.part).join()}`;
    case "write":
      return change.touch ?? Object.keys(change.part).join();
    default:
      return "";
  }
};

/** The draft after a change, with the steps back and forth kept. */
export function reduce(draft: Draft, change: Change): Draft {
  const { card, past, future } = draft;
  if (change.do === "undo") {
    const before = past.at(-1);
    if (!before) return draft;
    const rest = { past: past.slice(0, -1), future: [card, ...future] };
    return { card: before, ...rest, touched: "", reason: "" };
  }
  if (change.do === "redo") {
    const after = future[0];
    if (!after) return draft;
    const rest = { past: [...past, card], future: future.slice(1) };
    return { card: after, ...rest, touched: "", reason: "" };
  }
  const next = changed(card, change);
  const touched = touch(change);
  const same = touched !== "" && touched === draft.touched;
  return {
    card: next,
    past: same ? past : [...past, card].slice(-MOST_STEPS_BACK),
    future: [],
    touched,
    reason: change.do === "replace" ? change.reason : "",
  };
}

import type { Dough, Line, Schemas } from "../api/client";

type CardBody = Schemas["Card"];
export type Step = Schemas["Step"];
export type PartKind = Schemas["Part"]["kind"];

/** A line with a name of its own, so that it keeps its place on the screen when moved. */
export interface DraftLine extends Required<Line> {
  id: number;
}

export interface DraftPart {
  id: number;
  kind: PartKind;
  name: string;
  lines: DraftLine[];
  per_piece_g: number;
}

export interface Card extends Required<Omit<CardBody, "lines" | "steps" | "parts">> {
  lines: DraftLine[];
  steps: Step[];
  parts: DraftPart[];
}

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
let lastId = 0;

const nextId = (): number => {
  lastId += 1;
  return lastId;
};

export const BLANK: Line = {
  amount: "",
  unit: "g",
  ingredient: null,
  text: "",
  chosen: "",
  cup: null,
  egg: null,
};

export const NEW_DOUGH: CardBody = {
  name: "New dough",
  family: "drop",
  mixing: "creamed",
  lines: [],
  steps: [],
  parts: [],
  stated_pieces: null,
  stated_oven: "",
  note: "",
  cup: null,
  egg: null,
  settled: [],
};

const withId = (line: Line): DraftLine => ({
  ...line,
  cup: line.cup ?? null,
  egg: line.egg ?? null,
  id: nextId(),
});

const partOf = (part: Schemas["Part"]): DraftPart => ({
  ...part,
  id: nextId(),
  lines: part.lines.map(withId),
});

export const cardOf = (body: CardBody): Card => ({
  ...body,
  lines: body.lines.map(withId),
  parts: body.parts.map(partOf),
  stated_pieces: body.stated_pieces ?? null,
  cup: body.cup ?? null,
  egg: body.egg ?? null,
});

export const draftOf = (dough: Dough): Draft => ({
  card: cardOf(dough.card),
  past: [],
  future: [],
  touched: "",
  reason: "",
});

const plainLine = ({ id: _, ...line }: DraftLine): Line => line;

/** The card as the server keeps it. */
export const plainCard = (card: Card): CardBody => ({
  ...card,
  lines: card.lines.map(plainLine),
  parts: card.parts.map(({ id: _, ...part }) => ({ ...part, lines: part.lines.map(plainLine) })),
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

const inParts = (card: Card, id: number, change: (part: DraftPart) => DraftPart): Card => ({
  ...card,
  parts: card.parts.map((part) => (part.id === id ? change(part) : part)),
});

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
      const part = { id: nextId(), kind: change.kind, name: change.name, lines, per_piece_g: 3 };
      return { ...card, parts: [...card.parts, part] };
    }
    case "removePart":
      return { ...card, parts: card.parts.filter((part) => part.id !== change.id) };
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

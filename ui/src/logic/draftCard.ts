import type { Line, Schemas } from "../api/client";

export type CardBody = Schemas["Card"];
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

let lastId = 0;

export const nextId = (): number => {
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
  stated_width_mm: null,
  stated_oven: "",
  note: "",
  cup: null,
  egg: null,
  settled: [],
  without: [],
};

export const withId = (line: Line): DraftLine => ({
  ...line,
  cup: line.cup ?? null,
  egg: line.egg ?? null,
  id: nextId(),
});

export const partOf = (part: Schemas["Part"]): DraftPart => ({
  ...part,
  id: nextId(),
  lines: part.lines.map(withId),
});

export const cardOf = (body: CardBody): Card => ({
  ...body,
  lines: body.lines.map(withId),
  parts: body.parts.map(partOf),
  stated_pieces: body.stated_pieces ?? null,
  stated_width_mm: body.stated_width_mm ?? null,
  cup: body.cup ?? null,
  egg: body.egg ?? null,
});

const plainLine = ({ id: _, ...line }: DraftLine): Line => line;

/** The card as the server keeps it. */
export const plainCard = (card: Card): CardBody => ({
  ...card,
  lines: card.lines.map(plainLine),
  parts: card.parts.map(({ id: _, ...part }) => ({ ...part, lines: part.lines.map(plainLine) })),
});

/** What a piece takes of a part of which nothing is said, in g. */
export const usualPiece = (kind: PartKind): number => (kind === "bench" ? 0 : USUAL_PIECE_G);
const USUAL_PIECE_G = 3;

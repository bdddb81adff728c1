import type { Schemas, TraySetting } from "../api/client";

export type Piece = TraySetting["piece"];
export type Kind = Piece["kind"];
export type PieceOf<K extends Kind> = Extract<Piece, { kind: K }>;
export type Ask = Schemas["AskShown"];
type Handle = Schemas["Handle"];

/** What stands at a field of a piece, or at one within one of its fields. */
export const at = (piece: object, path: string): unknown =>
  path
    .split(".")
    .reduce<unknown>((whole, name) => (whole as Record<string, unknown> | null)?.[name], piece);

/** The same with another value at a field, or at one within one of its fields. */
export function put<T>(whole: T, path: string, value: unknown): T {
  const [name = "", ...rest] = path.split(".");
  const inner = (whole as Record<string, unknown>)[name];
  return { ...whole, [name]: rest.length > 0 ? put(inner, rest.join("."), value) : value };
}

/** The figure at a handle: what is told, or what comes out where something else decides it. */
export function figureAt(piece: Piece, handle: Handle, comesOut: number | undefined): number {
  const told = Number(at(piece, handle.field) ?? 0);
  return handle.clears.some((field) => at(piece, field) != null) ? (comesOut ?? told) : told;
}

/** The piece with a handle moved, and what goes along with it in proportion. */
export function moved(piece: Piece, handle: Handle, value: number): Piece {
  const by = value / Number(at(piece, handle.field));
  let after = put(piece, handle.field, value);
  for (const { field, power } of handle.along) {
    const figure = at(piece, field);
    if (typeof figure === "number") after = put(after, field, figure * by ** power);
  }
  for (const field of handle.clears) after = put(after, field, null);
  return after;
}

/** The ways of what is chosen, as a select has them. */
export const ways = (ask: Schemas["Ask"]) =>
  ask.ways.map(({ value, label }) => [String(value), label] as const);

/** Whether something is asked of a piece as it is set. */
export const isAsked = (piece: Piece, { ask }: Ask): boolean =>
  ask.when?.values.includes(at(piece, ask.when.field) as string | boolean) ?? true;

type Cutter = PieceOf<"rolled">["cutter"];

const WITH_DOWN = new Set<Cutter["shape"]>(["rectangle", "leaf", "star", "heart", "own"]);

/** Whether a cutter's two sides are set each by itself. */
export const hasDown = (cutter: Cutter): boolean => WITH_DOWN.has(cutter.shape);

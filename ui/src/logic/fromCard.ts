import type { Schemas, TraySetting } from "../api/client";
import { dial, length, mass, size, volume } from "./format";
import { at, put } from "./pieces";

export type CardSays = Schemas["CardSays"];
type Begun = Schemas["Started"];
type Span = { low: number; high: number } | null;

/** Something that the card says beside its lines, and the fields of the tray that it decides. */
export interface CardFact {
  key: string;
  label: string;
  said: string;
  /** What was guessed of it, to be looked at. */
  guess?: string;
  /** What it is, written out, where the guess was wrong. */
  instead?: string;
  fields: string[];
}

/** How far a piece is baked, in words, from the softest. */
export const DONE: Record<NonNullable<CardSays["doneness"]>, string> = {
  soft_centre: "soft in the middle",
  chewy: "chewy",
  set: "set",
  crisp: "crisp",
  dry: "dry",
};
const SHAPES: Record<NonNullable<CardSays["shape"]>, string> = {
  ball: "rolled to balls",
  left: "left as they fall",
  tapped: "tapped flat a little",
  pressed: "pressed flat",
  dented: "dented",
};

const SURFACES: Record<NonNullable<CardSays["surface"]>, string> = {
  parchment: "parchment",
  bare: "not greased",
  greased: "greased",
  silicone: "silicone",
};

const span = (time: Exclude<Span, null>): string => {
  if (time.low === time.high) return length(time.low);
  const [low, high] = [length(time.low), length(time.high)];
  return high.endsWith(" min") && low.endsWith(" min")
    ? `${low.slice(0, -4)}–${high}`
    : `${low} to ${high}`;
};

const ovenFact = (says: CardSays): CardFact[] => {
  if (!says.oven) return [];
  const scale = (says.oven_c ?? 0) > 0 && says.oven_guessed ? scaleOf(says) : "";
  const guess = says.oven_asked
    ? "its figures do not agree: set the oven on the tray"
    : scale && `taken as ${scale}`;
  return [
    {
      key: "oven",
      label: "Oven",
      said: says.oven,
      ...(guess ? { guess } : {}),
      ...(scale
        ? { instead: `${Number.parseFloat(says.oven)} ${scale === "°C" ? "°F" : "°C"}` }
        : {}),
      fields: says.oven_asked ? [] : ["oven_c"],
    },
  ];
};

/** A text with the scale written behind the number that stands there without one; null where there
 * is none. */
export function withScale(text: string, written: string): string | null {
  const number = Number.parseFloat(written);
  const bare = new RegExp(
    `(?<![\\d.,/])${number}(?!\\d|[.,/]\\d)(?!\\s*(?:°|º|deg|[CF]\\b|g\\b|ml|mm|cm|min))`,
  );
  return bare.test(text) ? text.replace(bare, written) : null;
}

/** The card with its oven's scale written out: where it is stated, else in the first step that says
 * it. */
export function cardWithScale<S extends { text: string }>(
  card: { stated_oven: string; steps: S[] },
  written: string,
): { stated_oven: string; steps: S[] } {
  const stated = withScale(card.stated_oven, written);
  if (stated !== null) return { stated_oven: stated, steps: card.steps };
  let found = false;
  const steps = card.steps.map((step) => {
    const text = found ? null : withScale(step.text, written);
    found = found || text !== null;
    return text === null ? step : { ...step, text };
  });
  return { stated_oven: card.stated_oven, steps };
}

const scaleOf = (says: CardSays): string =>
  Math.abs(Number.parseFloat(says.oven) - (says.oven_c ?? 0)) < 1 ? "°C" : "°F";

/** All that a card says beside its lines, in the order of work. */
export function cardFacts(says: CardSays): CardFact[] {
  const time = (key: string, label: string, value: Span, fields: string[] = []): CardFact[] =>
    value ? [{ key, label, said: span(value), fields }] : [];
  const told = (
    key: string,
    label: string,
    said: string | null | false,
    fields: string[] = [],
  ): CardFact[] => (said ? [{ key, label, said, fields }] : []);
  const mm = (value: number | null) => value !== null && size(value);
  const spoon =
    says.spoon_ml !== null && `${says.heaped ? "rounded " : ""}${volume(says.spoon_ml)}`;
  const cut =
    says.cutter_mm !== null &&
    (says.cutter_down_mm === null
      ? size(says.cutter_mm)
      : `${size(says.cutter_mm)} × ${size(says.cutter_down_mm)}`);
  const cutter = [says.cutter_outline, cut].filter(Boolean).join(", ");
  const pan =
    says.pan_mm !== null &&
    (says.pan_down_mm
      ? `${size(says.pan_mm)} × ${size(says.pan_down_mm)}`
      : `${size(says.pan_mm)}${says.pan_round ? " round" : ""}`);
  return [
    ...time("wait", "Rests on the bench", says.wait_min),
    ...time("chill", "Chill", says.chill_min, ["chill_min"]),
    ...told("logs", "Logs", says.logs !== null && String(says.logs), ["piece.grams"]),
    ...told("log", "Log across", mm(says.log_mm), ["piece.log_diameter_mm", "piece.width_mm"]),
    ...told("log-long", "Log long", mm(says.log_length_mm), ["piece.length_mm"]),
    ...told("thickness", "Thick", mm(says.thickness_mm), ["piece.thickness_mm", "piece.press_mm"]),
    ...told("cutter", "Cutter", cutter, ["piece.cutter"]),
    ...told("slice", "Slices", mm(says.slice_mm), ["piece.slice_mm", "piece.thickness_mm"]),
    ...told("pan", "Pan", pan, ["piece.across_mm", "piece.down_mm"]),
    ...told(
      "slab",
      "Slab",
      says.slab_mm !== null && `${size(says.slab_mm)} × ${size(says.slab_down_mm ?? says.slab_mm)}`,
      ["piece.across_mm", "piece.down_mm"],
    ),
    ...told(
      "rolled",
      "Rolled to",
      says.rolled_mm !== null &&
        `${size(says.rolled_mm)} × ${size(says.rolled_down_mm ?? says.rolled_mm)}`,
      ["piece.slab_across_mm", "piece.slab_down_mm"],
    ),
    ...told("mass", "Piece", says.piece_g !== null && mass(says.piece_g), ["piece.grams"]),
    ...told("spoon", "Portion", spoon, ["piece.scoop_ml"]),
    ...told("ball", "Balls", mm(says.ball_mm), ["piece.ball_mm"]),
    ...told("shape", "Shaped", says.shape && SHAPES[says.shape], ["piece.shape"]),
    ...told("surface", "Sheet", says.surface && SURFACES[says.surface], ["surface"]),
    ...told("makes", "Makes", says.pieces !== null && String(says.pieces)),
    ...told("baked", "Baked, across", mm(says.baked_mm), ["width_by"]),
    ...ovenFact(says),
    ...time("minutes", "Bake", says.minutes, ["minutes_by"]),
    ...told("look", "Look from", says.look_min !== null && `${says.look_min} min`, ["minutes_by"]),
    ...told("done", "Until", says.doneness && DONE[says.doneness], ["doneness"]),
    ...told("colour", "Colour", says.colour, ["colour"]),
    ...time("rest", "Rests on the sheet", says.rest_min),
    ...time("cool", "Cools before slicing", says.cool_before_slicing_min),
    ...time("second", "Second bake", says.second_minutes),
    ...time("setting", "To set", says.setting_min),
  ];
}

/** Fields that say by what minutes and width go: the card never sets them. */
const GO_BY: ReadonlySet<string> = new Set(["minutes_by", "width_by"]);

/** The fields of the tray that the card has said and that this fact decides. */
const decided = (fact: CardFact, begun: Begun): string[] =>
  fact.fields.filter((field) => GO_BY.has(field) || begun.said.includes(field));

const differs = (tray: TraySetting, begun: Begun, field: string): boolean =>
  JSON.stringify(at(tray, field)) !== JSON.stringify(at(begun.setting, field));

/** Whether the tray is set as the card says it, otherwise, or not by this fact at all. */
export function standing(
  fact: CardFact,
  begun: Begun,
  tray: TraySetting,
): "as said" | "otherwise" | null {
  const fields = decided(fact, begun);
  if (fields.length === 0) return null;
  return fields.some((field) => differs(tray, begun, field)) ? "otherwise" : "as said";
}

/** The tray set as the card says that fact; another way of portioning comes as a whole. */
export function asSaid(fact: CardFact, begun: Begun, tray: TraySetting): TraySetting {
  let after = tray;
  for (const field of decided(fact, begun)) {
    after =
      field.startsWith("piece.") && after.piece.kind !== begun.setting.piece.kind
        ? { ...after, piece: begun.setting.piece, also: [] }
        : put(after, field, at(begun.setting, field));
  }
  return after;
}

/** A field of the tray as the card has said it: whether it stands so, and what it would be. */
export function onCard(
  begun: Begun,
  tray: TraySetting,
  field: string,
): { stands: boolean; said: string; taken: TraySetting } | null {
  if (!begun.said.includes(field)) return null;
  const value = at(begun.setting, field);
  const whole = field.startsWith("piece.") && tray.piece.kind !== begun.setting.piece.kind;
  return {
    stands: !differs(tray, begun, field),
    said: words(field, value),
    taken: whole ? { ...tray, piece: begun.setting.piece } : put(tray, field, value),
  };
}

function words(field: string, value: unknown): string {
  if (field.endsWith("_mm")) return size(Number(value));
  if (field.endsWith("_c")) return dial(Number(value));
  if (field.endsWith("_min")) return length(Number(value));
  if (field.endsWith("grams")) return mass(Number(value));
  if (field === "doneness") return DONE[value as keyof typeof DONE];
  if (field === "piece.shape") return SHAPES[value as keyof typeof SHAPES];
  return typeof value === "object" ? "its own" : String(value);
}

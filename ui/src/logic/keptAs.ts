import type { Schemas } from "../api/client";

export type Form = Schemas["ColdOut"]["form"];

/** In what shape dough and pieces are kept cold. */
export const FORMS: readonly (readonly [Form, string])[] = [
  ["portions", "portions"],
  ["dough", "dough in a lump"],
  ["disc", "discs to roll"],
  ["log", "logs"],
  ["slices", "slices"],
  ["baked", "baked pieces"],
];

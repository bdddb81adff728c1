import type { BakingSession } from "../../api/client";
import type { Form } from "./queries";

/** In what shape dough and pieces are kept cold. */
export const FORMS: readonly (readonly [Form, string])[] = [
  ["portions", "portions"],
  ["dough", "dough in a lump"],
  ["disc", "discs to roll"],
  ["log", "logs"],
  ["slices", "slices"],
  ["baked", "baked pieces"],
];

const USUAL: Partial<Record<BakingSession["doughs"][number]["kind"], Form>> = {
  drop: "portions",
  rolled: "disc",
  sliced: "log",
  twice_baked: "log",
};

/** The shape that is taken where none was chosen. */
export const usualForm = (kind: BakingSession["doughs"][number]["kind"] | undefined): Form =>
  (kind && USUAL[kind]) ?? "dough";

import type { Schemas, TraySetting } from "../../api/client";

export type Piece = TraySetting["piece"];
export type Kind = Piece["kind"];
export type PieceOf<K extends Kind> = Extract<Piece, { kind: K }>;

export const KINDS: readonly (readonly [Kind, string])[] = [
  ["drop", "dropped"],
  ["rolled", "rolled and cut"],
  ["sliced", "sliced from a log"],
  ["pan", "pressed in a pan"],
  ["rope", "ropes and rings"],
  ["twice_baked", "twice-baked logs"],
  ["wafer", "wafers, shaped hot"],
];

/** A handle of a kind: a figure on a ruler. */
export interface Handle {
  field: string;
  label: string;
  /** What the field to type it in is called. */
  typed: string;
  unit: string;
  range: [number, number];
  step: number;
}

const BY_MASS: Handle = {
  field: "grams",
  label: "Mass of a piece",
  typed: "A piece weighs",
  unit: "g",
  range: [10, 90],
  step: 1,
};
const THICK: Handle = {
  field: "thickness_mm",
  label: "Thickness on the ruler",
  typed: "Thickness",
  unit: "mm",
  range: [2, 20],
  step: 0.5,
};

/** The two figures that a baker of each kind moves most. */
export const HANDLES: Record<Kind, Handle[]> = {
  drop: [BY_MASS],
  rolled: [
    {
      field: "cutter.across_mm",
      label: "Size of the cutter",
      typed: "Cutter across",
      unit: "mm",
      range: [20, 120],
      step: 1,
    },
    THICK,
  ],
  sliced: [
    THICK,
    {
      field: "log_diameter_mm",
      label: "Size of the log",
      typed: "Log across",
      unit: "mm",
      range: [25, 85],
      step: 1,
    },
  ],
  pan: [{ ...THICK, range: [5, 35] }],
  rope: [
    { ...BY_MASS, range: [10, 60] },
    {
      field: "length_mm",
      label: "Length on the ruler",
      typed: "Length of the rope",
      unit: "mm",
      range: [60, 300],
      step: 5,
    },
  ],
  twice_baked: [
    { ...BY_MASS, label: "Mass of a log", typed: "A log weighs", range: [100, 700], step: 5 },
    {
      field: "slice_mm",
      label: "Slice on the ruler",
      typed: "Thickness of a slice",
      unit: "mm",
      range: [6, 26],
      step: 0.5,
    },
  ],
  wafer: [
    { ...BY_MASS, range: [3, 25], step: 0.5 },
    {
      field: "spread_mm",
      label: "Spread on the ruler",
      typed: "Spread to",
      unit: "mm",
      range: [40, 140],
      step: 1,
    },
  ],
};

/** What a kind starts with when a dough is portioned another way. */
export const USUAL: { [K in Kind]: PieceOf<K> } = {
  drop: {
    kind: "drop",
    grams: 28,
    shape: "ball",
    scoop_ml: null,
    heaped: false,
    press_mm: 12,
    filling_g: 0,
    coat_g: 0,
    topping_g: 0,
  },
  rolled: {
    kind: "rolled",
    thickness_mm: 5,
    cutter: { shape: "round", across_mm: 60, down_mm: 60, area_cm2: null },
    web_mm: 3,
    parts: 2,
    staggered: true,
    papers: false,
  },
  sliced: { kind: "sliced", log_diameter_mm: 50, thickness_mm: 7, ends_mm: 4, longest_mm: 300 },
  pan: {
    kind: "pan",
    shape: "square",
    across_mm: 200,
    down_mm: 200,
    wall_mm: 45,
    thickness_mm: 12,
    scored_across: 4,
    scored_down: 5,
    wedges: 8,
  },
  rope: { kind: "rope", grams: 25, length_mm: 140, form: "straight" },
  twice_baked: {
    kind: "twice_baked",
    grams: 375,
    length_mm: 300,
    width_mm: 55,
    slice_mm: 13,
    lean_deg: 0,
  },
  wafer: { kind: "wafer", grams: 7, spread_mm: 70, soft_s: 75, shape_s: 12 },
};

/** The figure at a handle of a piece; a scooped piece has the mass that the server says. */
export function figureAt(piece: Piece, field: string, grams: number | undefined): number {
  if (piece.kind === "rolled" && field === "cutter.across_mm") return piece.cutter.across_mm;
  if (piece.kind === "drop" && piece.scoop_ml !== null && field === "grams")
    return grams ?? piece.grams;
  return (piece as unknown as Record<string, number>)[field] ?? 0;
}

/** The piece with a handle moved. A cutter of its own outline keeps its proportions. */
export function moved(piece: Piece, field: string, value: number): Piece {
  if (piece.kind === "rolled" && field === "cutter.across_mm")
    return { ...piece, cutter: sized(piece.cutter, value) };
  if (piece.kind === "drop" && field === "grams") return { ...piece, grams: value, scoop_ml: null };
  return { ...piece, [field]: value };
}

function sized(cutter: Schemas["Cutter"], across: number): Schemas["Cutter"] {
  const by = across / cutter.across_mm;
  return {
    ...cutter,
    across_mm: across,
    down_mm: cutter.down_mm * by,
    area_cm2: cutter.area_cm2 == null ? null : cutter.area_cm2 * by * by,
  };
}

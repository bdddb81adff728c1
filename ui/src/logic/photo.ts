/** A tray by a photograph: what was measured, and what the baker let stand of it. */

import type { Schemas } from "../api/client";

export type Measured = Schemas["TrayMeasured"];
export type PieceMeasured = Schemas["PieceMeasured"];
export type Pictured = Schemas["Pictured"];
export type Side = NonNullable<Pictured["back"]>;
export type Corners = Measured["corners"];
export interface Place {
  x: number;
  y: number;
}

/** What the baker put right: pieces that are none, and widths (mm) by name. */
export interface PutRight {
  struck: string[];
  widths: Record<string, number>;
}

export const AS_MEASURED: PutRight = { struck: [], widths: {} };

export const CORNER_NAMES = [
  "upper left corner",
  "upper right corner",
  "lower right corner",
  "lower left corner",
];

/** Where in the photo the sheet's sides are, as a baker sees them. */
export const SIDES = [
  ["far", "its upper side in the photo"],
  ["near", "its lower side in the photo"],
  ["left", "its left side in the photo"],
  ["right", "its right side in the photo"],
] as const satisfies readonly (readonly [Side, string])[];

export type Size = readonly [number, number];

/** What the four marks may be on: the sheet, or something white beside pieces on a rack (mm). */
export const THINGS = {
  sheet: null,
  a4: [297, 210],
  a5: [210, 148],
  letter: [279.4, 215.9],
} as const satisfies Record<string, Size | null>;
/** One of them, or another thing of a size that the baker gives. */
export type Thing = keyof typeof THINGS | "other";

/** So wide and deep may a thing beside pieces be (mm). */
export const THING_MM = [40, 1000] as const;
export const mayBeThing = (mm: number): boolean => mm >= THING_MM[0] && mm <= THING_MM[1];

/** What the marks are on as wide and deep (mm): null for the sheet, undefined while it is not said. */
export function sizeOf(thing: Thing, given: Size): Size | null | undefined {
  if (thing !== "other") return THINGS[thing];
  return given.every(mayBeThing) ? given : undefined;
}

/** Four corners as a question of the server names them. */
export const cornersAsked = (corners: readonly Place[]): number[] =>
  corners.flatMap(({ x, y }) => [x, y]);

/** One corner moved; none leaves the photo by more than a little. */
export const moved = (corners: readonly Place[], n: number, to: Place): Place[] =>
  corners.map((corner, k) => (k === n ? { x: held(to.x), y: held(to.y) } : corner));

const held = (share: number): number => Math.min(Math.max(share, -0.2), 1.2);

/** Strike a piece out, or put it back. */
export const struckOrNot = (right: PutRight, name: string): PutRight => ({
  ...right,
  struck: right.struck.includes(name)
    ? right.struck.filter((one) => one !== name)
    : [...right.struck, name],
});

export const widened = (right: PutRight, name: string, width: number): PutRight => ({
  ...right,
  widths: { ...right.widths, [name]: width },
});

export const widthOf = (one: PieceMeasured, right: PutRight): number =>
  right.widths[one.piece.name] ?? one.piece.width_mm;

/** An outline as it is drawn: by hand as much wider as its width is. */
export function outlineOf(one: PieceMeasured, right: PutRight): Place[] {
  const by = widthOf(one, right) / one.piece.width_mm;
  const middle = middleOf(one.outline);
  return one.outline.map(({ x, y }) => ({
    x: middle.x + (x - middle.x) * by,
    y: middle.y + (y - middle.y) * by,
  }));
}

export function middleOf(points: readonly Place[]): Place {
  const [left, right] = ends(points.map(({ x }) => x));
  const [top, bottom] = ends(points.map(({ y }) => y));
  return { x: (left + right) / 2, y: (top + bottom) / 2 };
}

export const ends = (values: readonly number[]): [number, number] => [
  Math.min(...values),
  Math.max(...values),
];

/** The pieces that stand, as they are written down. */
export function standing(found: Measured, right: PutRight): PieceMeasured[] {
  return found.pieces
    .filter((one) => !right.struck.includes(one.piece.name))
    .map((one) => {
      const width = widthOf(one, right);
      const length = (one.piece.length_mm * width) / one.piece.width_mm;
      return { ...one, piece: { ...one.piece, width_mm: width, length_mm: length } };
    });
}

/** Pairs that ran together, each told once. */
export function together(pieces: readonly PieceMeasured[]): [string, string][] {
  const names = new Set(pieces.map((one) => one.piece.name));
  return pieces.flatMap((one) =>
    one.touches
      .filter((other) => names.has(other) && one.piece.name < other)
      .map((other): [string, string] => [one.piece.name, other]),
  );
}

/** The piece that is nearest to another one, where none touch. */
export function closest(pieces: readonly PieceMeasured[]): PieceMeasured | null {
  const apart = pieces.filter((one) => one.gap_mm !== null && one.touches.length === 0);
  const gap = (one: PieceMeasured) => one.gap_mm ?? Number.POSITIVE_INFINITY;
  return apart.reduce<PieceMeasured | null>(
    (least, one) => (least === null || gap(one) < gap(least) ? one : least),
    null,
  );
}

/** What a loaded tray says, a sentence each: how even, what is odd, what will touch. */
export function loadedWords(raw: NonNullable<Measured["raw"]>): string[] {
  const odd = raw.odd.map(
    ({ name, share }) => `${name} is ${percentOf(share)} ${share > 0 ? "heavier" : "lighter"}`,
  );
  const pairs = raw.will_touch.map((pair) => pair.join(" and "));
  const all =
    raw.heavier === null
      ? []
      : [
          `All are about ${percentOf(raw.heavier)} ${raw.heavier > 0 ? "heavier" : "lighter"} than planned.`,
        ];
  return [
    `Portions differ by about ${percentOf(raw.cv)}.`,
    ...all,
    ...(odd.length > 0 ? [`${odd.join(", ")} than the others.`] : []),
    ...(pairs.length > 0 ? [`${pairs.join(", ")} will touch: move them apart.`] : []),
  ];
}

const percentOf = (share: number): string => `${Math.round(100 * Math.abs(share))} %`;

export const middle = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  const [low, high] = [sorted[half - 1] ?? 0, sorted[half] ?? 0];
  return sorted.length % 2 ? high : (low + high) / 2;
};

export const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(values.length, 1);

/** How the sheet came out from side to side, in words; nothing where it is even. */
export function unevenly(tilt: Measured["tilt"]): string {
  if (!tilt) return "";
  const ways = [
    [tilt.right_steps, "right", "left"],
    [tilt.near_steps, "lower", "upper"],
  ] as const;
  const told = ways
    .filter(([steps]) => Math.abs(steps) >= UNEVEN_STEPS)
    .map(
      ([steps, more, less]) =>
        `The ${steps > 0 ? more : less} side is ${Math.abs(steps).toFixed(1)} steps darker.`,
    );
  return told.join(" ");
}

const UNEVEN_STEPS = 0.4;

/** What goes into the record: the pieces, and how the sheet lay in the oven. */
export const pictured = (
  found: Measured,
  pieces: readonly PieceMeasured[],
  lay: Pick<Pictured, "back" | "turned" | "oven">,
): Pictured => ({
  wide_mm: found.wide_mm,
  deep_mm: found.deep_mm,
  pieces: pieces.map((one) => one.piece),
  ...lay,
});

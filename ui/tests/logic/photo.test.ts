import { describe, expect, it } from "vitest";
import {
  AS_MEASURED,
  closest,
  cornersAsked,
  loadedWords,
  type Measured,
  mean,
  middle,
  moved,
  outlineOf,
  type PieceMeasured,
  pictured,
  sizeOf,
  standing,
  struckOrNot,
  together,
  unevenly,
  widened,
} from "../../src/logic/photo";

const piece = (name: string, width: number, touches: string[] = []): PieceMeasured => ({
  piece: { name, x_mm: 60, y_mm: 60, width_mm: width, length_mm: width + 2, step: 4 },
  outline: [
    { x: 0.1, y: 0.1 },
    { x: 0.3, y: 0.1 },
    { x: 0.3, y: 0.3 },
    { x: 0.1, y: 0.3 },
  ],
  touches,
  gap_mm: touches.length > 0 ? 0 : 9,
});

const FOUND: Measured = {
  found: "sure",
  corners: [
    { x: 0, y: 0 },
    { x: 1, y: 0 },
    { x: 1, y: 1 },
    { x: 0, y: 1 },
  ],
  wide_mm: 405,
  deep_mm: 305,
  pieces: [piece("A1", 60, ["A2"]), piece("A2", 64, ["A1"]), piece("B1", 62)],
  expected: null,
  foreseen_mm: 62,
  low_mm: 58,
  high_mm: 66,
  tilt: null,
  raw: null,
  empty: [],
};

describe("a tray by its photo", () => {
  it("counts what is not struck out, and what was put right", () => {
    const right = widened(struckOrNot(AS_MEASURED, "B1"), "A1", 66);
    const left = standing(FOUND, right);
    expect(left.map((one) => one.piece.name)).toEqual(["A1", "A2"]);
    expect(mean(left.map((one) => one.piece.width_mm))).toBe(65);
    expect(left[0]?.piece.length_mm).toBeCloseTo(68.2);
    expect(standing(FOUND, struckOrNot(right, "B1"))).toHaveLength(3);
  });

  it("tells each pair that touches once, and none that was struck out", () => {
    expect(together(FOUND.pieces)).toEqual([["A1", "A2"]]);
    expect(together(standing(FOUND, struckOrNot(AS_MEASURED, "A2")))).toEqual([]);
  });

  it("draws an outline as wide as it was put", () => {
    const wide = outlineOf(piece("A1", 60), widened(AS_MEASURED, "A1", 90));
    expect(wide[0]?.x).toBeCloseTo(0.05);
    expect(wide[2]?.y).toBeCloseTo(0.35);
  });

  it("moves a corner, and keeps it near the photo", () => {
    const corners = moved(FOUND.corners, 2, { x: 3, y: 0.9 });
    expect(cornersAsked(corners)).toEqual([0, 0, 1, 0, 1.2, 0.9, 0, 1]);
  });

  it("says which side is darker, where one is", () => {
    const tilt = { right_steps: -0.8, near_steps: 0.1, right_ln: 0, near_ln: 0 };
    expect(unevenly(tilt)).toBe("The left side is 0.8 steps darker.");
    expect(unevenly({ ...tilt, right_steps: 0.2 })).toBe("");
    expect(unevenly(null)).toBe("");
  });

  it("says of a loaded tray what is odd and what will touch", () => {
    const raw = { cv: 0.08, heavier: null, odd: [], will_touch: [] };
    expect(loadedWords(raw)).toEqual(["Portions differ by about 8 %."]);
    const told = loadedWords({
      cv: 0.12,
      heavier: -0.14,
      odd: [{ name: "B2", share: 0.21 }],
      will_touch: [["B2", "B3"]],
    });
    expect(told.slice(1)).toEqual([
      "All are about 14 % lighter than planned.",
      "B2 is 21 % heavier than the others.",
      "B2 and B3 will touch: move them apart.",
    ]);
    expect(closest(FOUND.pieces)?.piece.name).toBe("B1");
    expect(closest([])).toBeNull();
  });

  it("writes down how the sheet lay", () => {
    const kept = pictured(FOUND, FOUND.pieces, { back: "near", turned: true, oven: 1 });
    expect(kept).toMatchObject({ wide_mm: 405, back: "near", turned: true });
    expect(kept.pieces?.map((one) => one.name)).toEqual(["A1", "A2", "B1"]);
    expect(middle([3, 1, 2])).toBe(2);
    expect(middle([4, 1, 2, 3])).toBe(2.5);
  });

  it("knows how large the thing beside the pieces is, once that is said", () => {
    expect(sizeOf("sheet", [50, 50])).toBeNull();
    expect(sizeOf("a5", [50, 50])).toEqual([210, 148]);
    expect(sizeOf("other", [85, 54])).toEqual([85, 54]);
    expect(sizeOf("other", [85, 3])).toBeUndefined();
    expect(sizeOf("other", [Number.NaN, 54])).toBeUndefined();
  });
});

import { describe, expect, it } from "vitest";
import type { Schemas, Tray } from "../../src/api/client";
import { type Ask, at, figureAt, isAsked, moved, type Piece } from "../../src/logic/pieces";
import { trayInWords, word } from "../../src/logic/trayWords";

type Handle = Schemas["Handle"];
const handle = (field: string, more: Partial<Handle> = {}): Handle =>
  ({ field, along: [], clears: [], ...more }) as unknown as Handle;
const leaf = {
  kind: "rolled",
  thickness_mm: 5,
  cutter: { shape: "own", across_mm: 48, down_mm: 82, area_cm2: 26 },
} as unknown as Piece;
const across = handle("cutter.across_mm", {
  along: [
    { field: "cutter.down_mm", power: 1 },
    { field: "cutter.area_cm2", power: 2 },
  ],
});

describe("a handle", () => {
  it("moves its figure, within the cutter too, and what goes along in proportion", () => {
    const twice = moved(leaf, across, 96);
    expect(at(twice, "cutter")).toEqual({
      shape: "own",
      across_mm: 96,
      down_mm: 164,
      area_cm2: 104,
    });
    expect(at(leaf, "cutter.across_mm")).toBe(48);
    expect(at(moved(leaf, handle("thickness_mm"), 7), "thickness_mm")).toBe(7);
  });

  it("leaves what is not told as it is", () => {
    const round = {
      ...leaf,
      cutter: { shape: "round", across_mm: 60, down_mm: 60, area_cm2: null },
    } as Piece;
    expect(at(moved(round, across, 30), "cutter.area_cm2")).toBeNull();
  });

  it("shows what comes out while something else decides, and takes its place when it is moved", () => {
    const mass = handle("grams", { clears: ["scoop_ml"] });
    const scooped = { kind: "drop", grams: 28, scoop_ml: 32 } as unknown as Piece;
    expect(figureAt(scooped, mass, 41)).toBe(41);
    expect(figureAt(scooped, mass, undefined)).toBe(28);
    const weighed = moved(scooped, mass, 35);
    expect(at(weighed, "scoop_ml")).toBeNull();
    expect(figureAt(weighed, mass, 41)).toBe(35);
  });
});

it("is asked for where its condition holds", () => {
  const ask = (when: Schemas["Ask"]["when"]) => ({ ask: { when } }) as unknown as Ask;
  const pressed = { kind: "drop", shape: "pressed" } as unknown as Piece;
  expect(isAsked(pressed, ask(null))).toBe(true);
  expect(isAsked(pressed, ask({ field: "shape", values: ["pressed"] }))).toBe(true);
  expect(isAsked(pressed, ask({ field: "shape", values: ["dented", "ball"] }))).toBe(false);
});

describe("a tray in words", () => {
  const tray = (layout: object | null, more: object = {}) =>
    ({
      layouts: layout ? [layout] : [],
      footprint: { across_mm: 70, is_round: true },
      ...more,
    }) as unknown as Tray;
  const rows = [
    [50, 150, 250],
    [50, 150, 250],
  ].flatMap((xs, r) => xs.map((x) => ({ x, y: 60 + 90 * r })));

  it("tells rows, distances and what stays free", () => {
    const laid = { pattern: "rows", centres: rows, rows: [3, 3], nearest_mm: 90, turned: false };
    expect(trayInWords(tray(laid))).toBe(
      "Two rows of three, 10.0 cm from middle to middle. 20 mm stay free between the rims.",
    );
  });

  it("tells columns where rows run down the sheet, and rows that are not alike", () => {
    const turned = rows.map(({ x, y }) => ({ x: y, y: x }));
    const laid = { pattern: "rows", centres: turned, rows: [3, 3], nearest_mm: null, turned: true };
    expect(trayInWords(tray(laid))).toBe("Two columns of three, 10.0 cm from middle to middle.");
    const uneven = { ...laid, centres: rows, rows: [3, 2], turned: false };
    expect(trayInWords(tray(uneven))).toContain("Rows of 3, 2");
  });

  it("sends what is no row to the paper, and a pan to its shelf", () => {
    expect(trayInWords(tray({ pattern: "close", centres: [], rows: [] }))).toContain(
      "paper template",
    );
    expect(trayInWords(tray(null))).toContain("pan");
    expect([3, 14].map(word)).toEqual(["three", "14"]);
  });
});

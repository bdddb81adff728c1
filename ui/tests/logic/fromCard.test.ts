import { describe, expect, it } from "vitest";
import type { Schemas, TraySetting } from "../../src/api/client";
import {
  asSaid,
  type CardSays,
  cardFacts,
  cardWithScale,
  onCard,
  standing,
  withScale,
} from "../../src/logic/fromCard";

const SILENT: CardSays = {
  oven: "",
  oven_c: null,
  oven_in_f: null,
  fan: false,
  oven_guessed: false,
  oven_asked: false,
  minutes: null,
  bake_within_min: null,
  look_min: null,
  second_minutes: null,
  second_oven_c: null,
  chill_min: null,
  rest_min: null,
  wait_min: null,
  setting_min: null,
  cool_before_slicing_min: null,
  baked_mm: null,
  cutter_outline: null,
  rolled_mm: null,
  rolled_down_mm: null,
  pieces: null,
  piece_g: null,
  thickness_mm: null,
  cutter_mm: null,
  slice_mm: null,
  logs: null,
  log_mm: null,
  log_length_mm: null,
  pan_mm: null,
  pan_down_mm: null,
  pan_round: false,
  spoon_ml: null,
  heaped: false,
  ball_mm: null,
  ball_about: false,
  shape: null,
  by_spoon: false,
  square_cutter: false,
  cutter_down_mm: null,
  spread_mm: null,
  spread_g: null,
  spread_ml: null,
  shaped_hot: false,
  slab_mm: null,
  slab_down_mm: null,
  trimmed: false,
  surface: null,
  of_eggs: false,
  doneness: null,
  colour: null,
  asked: [],
};
const USUAL = {
  piece: { kind: "drop", grams: 28, shape: "ball" },
  oven_c: 180,
  chill_min: 0,
  by_card: true,
} as unknown as TraySetting;
const begun = (says: Partial<CardSays>, setting: object, said: string[]): Schemas["Started"] => ({
  says: { ...SILENT, ...says },
  setting: { ...USUAL, ...setting },
  said,
});
const fact = (says: Partial<CardSays>, key: string) => {
  const found = cardFacts({ ...SILENT, ...says }).find((one) => one.key === key);
  if (!found) throw new Error(`no ${key}`);
  return found;
};

describe("what a card says", () => {
  it("is nothing where it is silent", () => expect(cardFacts(SILENT)).toEqual([]));

  it.each([
    [{ minutes: { low: 10, high: 12 } }, "minutes", "10–12 min"],
    [{ chill_min: { low: 60, high: 60 } }, "chill", "1 h"],
    [{ chill_min: { low: 120, high: 720 } }, "chill", "2 h to 12 h"],
    [{ chill_min: { low: 30, high: 60 } }, "chill", "30 min to 1 h"],
    [{ thickness_mm: 6.5 }, "thickness", "6.5 mm"],
    [{ cutter_mm: 50 }, "cutter", "5 cm"],
    [{ pan_mm: 200, pan_down_mm: 300 }, "pan", "20 cm × 30 cm"],
    [{ pan_mm: 230, pan_round: true }, "pan", "23 cm round"],
    [{ spoon_ml: 15, heaped: true }, "spoon", "rounded 15 ml"],
    [{ doneness: "soft_centre" as const }, "done", "soft in the middle"],
    [{ pieces: 24 }, "makes", "24"],
  ])("reads as a baker would say it: %o", (says, key, said) =>
    expect(fact(says, key).said).toBe(said),
  );

  it("tells of an oven without a scale how it was taken, and of one that contradicts itself", () => {
    const bare = { oven: "350", oven_c: 176.7, oven_guessed: true };
    expect(fact(bare, "oven").guess).toBe("taken as °F");
    expect(fact({ ...bare, oven: "180", oven_c: 180 }, "oven").guess).toBe("taken as °C");
    expect(fact({ oven: "350 °F", oven_c: 176.7 }, "oven").guess).toBeUndefined();
    expect(fact({ oven: "180 °C / 250 °F", oven_c: 180, oven_asked: true }, "oven").fields).toEqual(
      [],
    );
  });
});

describe("the tray beside the card", () => {
  const card = begun({ oven: "200 °C", oven_c: 200 }, { oven_c: 200 }, ["oven_c"]);
  const oven = fact(card.says, "oven");

  it("stands as said, otherwise, or has nothing to do with it", () => {
    expect(standing(oven, card, { ...USUAL, oven_c: 200 })).toBe("as said");
    expect(standing(oven, card, USUAL)).toBe("otherwise");
    expect(standing(fact({ colour: "pale" }, "colour"), card, USUAL)).toBeNull();
  });

  it("is set as said by one press", () => {
    expect(asSaid(oven, card, USUAL).oven_c).toBe(200);
    const pan = begun({ pan_mm: 200 }, { piece: { kind: "filled_pan", across_mm: 200 } }, [
      "piece.across_mm",
    ]);
    expect(asSaid(fact(pan.says, "pan"), pan, USUAL).piece.kind).toBe("filled_pan");
  });

  it("says beside a figure whether it is the card's", () => {
    expect(onCard(card, { ...USUAL, oven_c: 200 }, "oven_c")?.stands).toBe(true);
    const other = onCard(card, USUAL, "oven_c");
    expect([other?.stands, other?.said, other?.taken.oven_c]).toEqual([false, "200 °C", 200]);
    expect(onCard(card, USUAL, "chill_min")).toBeNull();
    const balls = begun({ piece_g: 40 }, { piece: { ...USUAL.piece, grams: 40 } }, ["piece.grams"]);
    expect(onCard(balls, USUAL, "piece.grams")?.said).toBe("40 g");
  });
});

describe("an oven without a scale", () => {
  it("gets the scale that it is, where it stands without one", () => {
    expect(withScale("Bake at 350 for 10 minutes", "350 °C")).toBe("Bake at 350 °C for 10 minutes");
    expect(withScale("350 g flour, bake at 350", "350 °F")).toBe("350 g flour, bake at 350 °F");
    expect(withScale("Bake at 350 °F", "350 °C")).toBeNull();
    const steps = [{ text: "Mix." }, { text: "Bake at 250." }, { text: "Again at 250." }];
    expect(cardWithScale({ stated_oven: "250, 12 min", steps }, "250 °F").stated_oven).toBe(
      "250 °F, 12 min",
    );
    expect(cardWithScale({ stated_oven: "", steps }, "250 °F").steps.map((s) => s.text)).toEqual([
      "Mix.",
      "Bake at 250 °F.",
      "Again at 250.",
    ]);
  });
});

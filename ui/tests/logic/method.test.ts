import { describe, expect, it } from "vitest";
import type { Words } from "../../src/api/client";
import { cardOf, NEW_DOUGH } from "../../src/logic/draftCard";
import {
  EMPTY_STEP,
  isOwn,
  kindsByStage,
  stretches,
  type Told,
  withoutStep,
  withStep,
  withStepAfter,
  withStepMoved,
} from "../../src/logic/method";

const told = (text: string, more: Partial<Told> = {}): Told => ({
  kind: "beat_in",
  label: "Mix in",
  stage: "mix",
  text,
  cue: "",
  caution: "",
  hands_min: 2,
  each_s: 0,
  wait_min: 0,
  wait_most_min: null,
  per: "dough",
  where: "bowl",
  origin: "card",
  card_step: 1,
  by_card: false,
  each_by_card: false,
  ...more,
});

const weigh = told("Weigh.", {
  kind: "weigh",
  stage: "get_ready",
  origin: "habit",
  card_step: null,
});
const toast = told("Toast.", { kind: "toast", stage: "get_ready", card_step: 2 });
const cream = told("Cream.", { kind: "cream", by_card: true, hands_min: 3 });
const chill = told("Chill.", {
  kind: "chill",
  stage: "chill",
  wait_min: 30,
  wait_most_min: 45,
  card_step: 3,
});
const TOLD = [weigh, toast, cream, chill];
const NEW_CARD = cardOf(NEW_DOUGH);
const CARD = { ...NEW_CARD, steps: [{ ...EMPTY_STEP, text: "Cream. Toast. Chill." }] };
const texts = (steps: { text: string }[]) => steps.map((step) => step.text);

describe("a method told step by step", () => {
  it("is the card's own in the card's order, each step typed by a first change", () => {
    const steps = withStep(CARD, TOLD, 2, { hands_min: 7 });
    expect(texts(steps)).toEqual(["Cream.", "Toast.", "Chill."]);
    expect(steps[0]).toMatchObject({ kind: "cream", hands_min: 7 });
    expect(steps[1]).toMatchObject({ kind: "toast", hands_min: 0 });
    expect(steps[2]).toMatchObject({ wait_min: 30, wait_most_min: 45 });
  });

  it("changes what is typed as it now is, not as it was told before", () => {
    const typed = withStep(CARD, TOLD, 2, { text: "Cream well." });
    const now = { ...CARD, steps: typed };
    const again = TOLD.map((step) =>
      step === weigh ? step : { ...step, card_step: texts(typed).indexOf(step.text) + 1 || 1 },
    );
    expect(texts(withStep(now, again, 3, { text: "Cool." }))).toEqual([
      "Cream well.",
      "Toast.",
      "Cool.",
    ]);
  });

  it("takes a usual step in as the card's own once it is changed", () => {
    expect(isOwn(weigh, CARD)).toBe(false);
    expect(texts(withStep(CARD, TOLD, 0, { text: "Weigh twice." }))[0]).toBe("Weigh twice.");
    const plain = told("Stir.", { origin: "usual", card_step: null });
    expect(isOwn(plain, NEW_CARD)).toBe(true);
  });

  it("is added to, moved and left out", () => {
    expect(texts(withoutStep(CARD, TOLD, 1))).toEqual(["Cream.", "Chill."]);
    expect(withStepAfter(CARD, TOLD, 3).at(-1)).toMatchObject({ text: "", kind: "chill" });
    expect(texts(withStepMoved(CARD, TOLD, 3, -1))).toEqual(["Cream.", "Chill.", "Toast."]);
    expect(texts(withStepMoved(CARD, TOLD, 0, 1))).toEqual(["Cream.", "Toast.", "Chill."]);
    expect(withStep(CARD, TOLD, 9, {})).toHaveLength(3);
  });

  it("is told by the part of the work, and kinds are chosen by it", () => {
    expect(stretches(TOLD).map(({ stage, steps }) => [stage, steps.length])).toEqual([
      ["get_ready", 2],
      ["mix", 1],
      ["chill", 1],
    ]);
    const words = {
      steps: [
        { kind: "weigh", label: "Weigh", stage: "get_ready" },
        { kind: "cream", label: "Cream", stage: "mix" },
        { kind: "toast", label: "Toast", stage: "get_ready" },
      ],
    } as unknown as Words;
    expect(kindsByStage(words).map(([label, kinds]) => [label, kinds.length])).toEqual([
      ["Get ready", 2],
      ["Mix", 1],
    ]);
  });
});

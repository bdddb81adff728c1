import { describe, expect, it } from "vitest";
import type { Words } from "../../src/api/client";
import { cardOf, NEW_DOUGH } from "../../src/logic/draftCard";
import {
  type Changed,
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

const WORDS = {
  steps: [
    { kind: "weigh", label: "Weigh", stage: "get_ready" },
    { kind: "cream", label: "Cream", stage: "mix" },
    { kind: "toast", label: "Toast", stage: "get_ready" },
  ],
} as unknown as Words;
/** What is told stands where the card's steps have it: a next change goes to the right one. */
const inStep = ({ steps, told }: Changed) => {
  for (const row of told)
    if (row.card_step !== null) expect(steps[row.card_step - 1]?.text).toBe(row.text);
  expect(told.filter((row) => row.card_step !== null)).toHaveLength(steps.length);
  return steps;
};

describe("a method told step by step", () => {
  it("is the card's own in the card's order, each step typed by a first change", () => {
    const steps = inStep(withStep(CARD, TOLD, 2, { hands_min: 7 }, WORDS));
    expect(texts(steps)).toEqual(["Cream.", "Toast.", "Chill."]);
    expect(steps[0]).toMatchObject({ kind: "cream", hands_min: 7 });
    expect(steps[1]).toMatchObject({ kind: "toast", hands_min: 0 });
    expect(steps[2]).toMatchObject({ wait_min: 30, wait_most_min: 45 });
  });

  it("is changed again and again before it is told anew", () => {
    let { steps, told } = withStep(CARD, TOLD, 2, { text: "Cream well." }, WORDS);
    const next = (changed: Changed) => {
      inStep(changed);
      steps = changed.steps;
      told = changed.told;
    };
    const now = () => ({ ...CARD, steps });
    next(withStepAfter(now(), told, 2));
    next(withStep(now(), told, 3, { text: "Stir once more.", kind: "toast" }, WORDS));
    expect(told[3]).toMatchObject({ label: "Toast", stage: "get_ready" });
    next(withStep(now(), told, 0, { text: "Weigh twice." }, WORDS));
    next(withoutStep(now(), told, 1));
    next(withStep(now(), told, 3, { text: "Cool." }, WORDS));
    next(withStepMoved(now(), told, 2, -1));
    expect(texts(steps)).toEqual(["Weigh twice.", "Stir once more.", "Cream well.", "Cool."]);
    expect(texts(told)).toEqual(texts(steps));
  });

  it("takes a usual step in as the card's own once it is changed", () => {
    expect(isOwn(weigh, CARD)).toBe(false);
    const { steps } = withStep(CARD, TOLD, 0, { text: "Weigh twice." }, WORDS);
    expect(texts(steps)[0]).toBe("Weigh twice.");
    const plain = told("Stir.", { origin: "usual", card_step: null });
    expect(isOwn(plain, NEW_CARD)).toBe(true);
  });

  it("is added to, moved and left out", () => {
    expect(texts(inStep(withoutStep(CARD, TOLD, 1)))).toEqual(["Cream.", "Chill."]);
    expect(inStep(withStepAfter(CARD, TOLD, 3)).at(-1)).toMatchObject({ text: "", kind: "chill" });
    const moved = inStep(withStepMoved(CARD, TOLD, 3, -1));
    expect(texts(moved)).toEqual(["Cream.", "Chill.", "Toast."]);
    expect(texts(inStep(withStepMoved(CARD, TOLD, 0, 1)))).toEqual(["Cream.", "Toast.", "Chill."]);
    expect(inStep(withStep(CARD, TOLD, 9, {}, WORDS))).toHaveLength(3);
  });

  it("is told by the part of the work, and kinds are chosen by it", () => {
    expect(stretches(TOLD).map(({ stage, steps }) => [stage, steps.length])).toEqual([
      ["get_ready", 2],
      ["mix", 1],
      ["chill", 1],
    ]);
    expect(kindsByStage(WORDS).map(([label, kinds]) => [label, kinds.length])).toEqual([
      ["Get ready", 2],
      ["Mix", 1],
    ]);
  });
});

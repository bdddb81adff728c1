/** A method told step by step, and what becomes of the card when the baker changes one of its steps. */
import type { Study, Words } from "../api/client";
import type { Card, Step } from "./draft";

export type Told = Study["told"][number];
export type StepKind = Told["kind"];
export type Stage = Told["stage"];

export const STAGE: Record<Stage, string> = {
  get_ready: "Get ready",
  mix: "Mix",
  shape: "Shape",
  chill: "Chill",
  make: "Make the pieces",
  bake: "Bake",
  after: "After the oven",
  finish: "Finish",
  keep: "Keep",
  between: "Between",
};

/** The same in short, for a narrow drawing. */
export const STAGE_SHORT: Record<Stage, string> = {
  ...STAGE,
  get_ready: "Ready",
  make: "Make",
  after: "After",
};

/** Kinds of steps by the part of the work that they belong to, as a list to choose from. */
export function kindsByStage(words: Words): [string, Words["steps"]][] {
  const found = new Map<Stage, Words["steps"]>();
  for (const step of words.steps) found.set(step.stage, [...(found.get(step.stage) ?? []), step]);
  return [...found].map(([stage, steps]) => [STAGE[stage], steps]);
}

/** Steps told one after the other, by their stage: a stage that comes again is told again. */
export function stretches(
  told: Told[],
): { stage: Stage; steps: { step: Told; place: number }[] }[] {
  const found: { stage: Stage; steps: { step: Told; place: number }[] }[] = [];
  told.forEach((step, place) => {
    const last = found.at(-1);
    if (last?.stage === step.stage) last.steps.push({ step, place });
    else found.push({ stage: step.stage, steps: [{ step, place }] });
  });
  return found;
}

/** The step of a card that says just what is told. Minutes that are only usual stay unsaid. */
const asStep = (told: Told): Step => ({
  text: told.text,
  kind: told.kind,
  hands_min: told.by_card ? Math.round(told.hands_min) : 0,
  wait_min: Math.round(told.wait_min),
  wait_most_min: told.wait_most_min === null ? null : Math.round(told.wait_most_min),
  each_s: told.each_by_card ? told.each_s : 0,
  cue: told.cue,
  caution: told.caution,
});

/** Whether a step told is the card's own; of a card that has none the usual ones that mix are. */
export const isOwn = (told: Told, card: Card): boolean =>
  card.steps.length > 0 ? told.card_step !== null : told.origin === "usual" && told.stage === "mix";

interface OwnSteps {
  steps: Step[];
  /** Where in them each step told stands; none for what is usual. */
  places: Map<number, number>;
}

/** The card's steps, each of one kind, in the card's order. What is typed already is taken from the
 * card as it is now, whatever was told of it before. */
function ownSteps(card: Card, told: Told[]): OwnSteps {
  const own = told
    .map((step, place) => ({ step, place }))
    .filter(({ step }) => isOwn(step, card))
    .sort((a, b) => (a.step.card_step ?? 0) - (b.step.card_step ?? 0));
  if (card.steps.length > 0 && card.steps.every((step) => step.kind)) {
    const places = own.map(({ step, place }) => [place, (step.card_step ?? 1) - 1] as const);
    return { steps: card.steps, places: new Map(places) };
  }
  return {
    steps: own.map(({ step }) => asStep(step)),
    places: new Map(own.map(({ place }, n) => [place, n] as const)),
  };
}

/** The card's steps with the one told at that place changed; a usual one is the card's by it. */
export function withStep(card: Card, told: Told[], place: number, part: Partial<Step>): Step[] {
  const { steps, places } = ownSteps(card, told);
  const at = places.get(place);
  if (at !== undefined) return steps.map((step, n) => (n === at ? { ...step, ...part } : step));
  const usual = told[place];
  if (!usual) return steps;
  const before = [...places].filter(([n]) => n < place).map(([, n]) => n + 1);
  const first = Math.max(0, ...before);
  return [...steps.slice(0, first), { ...asStep(usual), ...part }, ...steps.slice(first)];
}

/** The card's steps without the one told at that place. */
export function withoutStep(card: Card, told: Told[], place: number): Step[] {
  const { steps, places } = ownSteps(card, told);
  return steps.filter((_, n) => n !== places.get(place));
}

/** The card's steps with one more after the one told there, of its kind until another is chosen. */
export function withStepAfter(card: Card, told: Told[], place: number): Step[] {
  const { steps, places } = ownSteps(card, told);
  const at = places.get(place) ?? steps.length - 1;
  const more = { ...EMPTY_STEP, kind: told[place]?.kind ?? "beat_in" };
  return [...steps.slice(0, at + 1), more, ...steps.slice(at + 1)];
}

/** The card's steps with the one told at that place moved by one. */
export function withStepMoved(card: Card, told: Told[], place: number, by: -1 | 1): Step[] {
  const { steps, places } = ownSteps(card, told);
  const at = places.get(place);
  if (at === undefined) return steps;
  const moved = [...steps];
  const [step] = moved.splice(at, 1);
  if (step) moved.splice(Math.max(at + by, 0), 0, step);
  return moved;
}

export const EMPTY_STEP: Step = {
  text: "",
  kind: null,
  hands_min: 0,
  wait_min: 0,
  wait_most_min: null,
  each_s: 0,
  cue: "",
  caution: "",
};

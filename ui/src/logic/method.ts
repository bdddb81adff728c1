/** A method told step by step, and what becomes of the card when the baker changes one of its steps. */
import type { Study, Words } from "../api/client";
import type { Card, Step } from "./draft";
import { length } from "./format";

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
  per: null,
  where: null,
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

/** What a change leaves: the card's steps, and how they are told until the kitchen's answer is here. */
export interface Changed {
  steps: Step[];
  told: Told[];
}

/** What is told, each step with its place in the card's own steps. */
const numbered = (told: Told[], { places }: OwnSteps): Told[] =>
  told.map((step, place) => {
    const at = places.get(place);
    return { ...step, card_step: at === undefined ? null : at + 1 };
  });

/** The card's steps from that place on moved along, to make room for one more or to close up. */
const shifted = (told: Told[], at: number, by: -1 | 1): Told[] =>
  told.map((step) =>
    step.card_step !== null && step.card_step > at
      ? { ...step, card_step: step.card_step + by }
      : step,
  );

/** A step as it is told once a part of it is written. */
function rewritten(told: Told, part: Partial<Step>, words: Words): Told {
  const { kind, per, where, ...plain } = part;
  const found = words.steps.find((one) => one.kind === kind);
  return {
    ...told,
    ...plain,
    per: per ?? told.per,
    where: where ?? told.where,
    ...(found && { kind: found.kind, label: found.label, stage: found.stage }),
    by_card: told.by_card || part.hands_min !== undefined,
    each_by_card: told.each_by_card || part.each_s !== undefined,
    origin: "card",
  };
}

/** The step told at that place changed; a usual one is the card's own by it. */
export function withStep(
  card: Card,
  told: Told[],
  place: number,
  part: Partial<Step>,
  words: Words,
): Changed {
  const own = ownSteps(card, told);
  const { steps, places } = own;
  const rows = numbered(told, own);
  const row = rows[place];
  if (!row) return { steps, told: rows };
  const changed = rewritten(row, part, words);
  const at = places.get(place);
  if (at !== undefined)
    return {
      steps: steps.map((step, n) => (n === at ? { ...step, ...part } : step)),
      told: rows.with(place, changed),
    };
  const before = [...places].filter(([n]) => n < place).map(([, n]) => n + 1);
  const first = Math.max(0, ...before);
  return {
    steps: steps.toSpliced(first, 0, { ...asStep(row), ...part }),
    told: shifted(rows, first, 1).with(place, { ...changed, card_step: first + 1 }),
  };
}

/** Without the step told at that place. */
export function withoutStep(card: Card, told: Told[], place: number): Changed {
  const own = ownSteps(card, told);
  const at = own.places.get(place);
  const rows = numbered(told, own);
  if (at === undefined) return { steps: own.steps, told: rows };
  return {
    steps: own.steps.toSpliced(at, 1),
    told: shifted(rows.toSpliced(place, 1), at, -1),
  };
}

/** With one more step after the one told there, of its kind until another is chosen. */
export function withStepAfter(card: Card, told: Told[], place: number): Changed {
  const own = ownSteps(card, told);
  const at = (own.places.get(place) ?? own.steps.length - 1) + 1;
  const rows = shifted(numbered(told, own), at, 1);
  const row = told[place];
  const step: Step = { ...EMPTY_STEP, kind: row?.kind ?? "beat_in" };
  if (!row) return { steps: own.steps.toSpliced(at, 0, step), told: rows };
  const more: Told = {
    ...row,
    ...EMPTY_STEP,
    kind: row.kind,
    per: row.per,
    where: row.where,
    by_card: false,
    each_by_card: false,
    origin: "card",
    card_step: at + 1,
  };
  return {
    steps: own.steps.toSpliced(at, 0, step),
    told: rows.toSpliced(place + 1, 0, more),
  };
}

/** With the step told at that place moved by one of the card's own. */
export function withStepMoved(card: Card, told: Told[], place: number, by: -1 | 1): Changed {
  const own = ownSteps(card, told);
  const rows = numbered(told, own);
  const at = own.places.get(place);
  const step = at === undefined ? undefined : own.steps[at];
  const to = (at ?? 0) + by;
  const other = [...own.places].find(([, n]) => n === to)?.[0];
  if (at === undefined || !step || other === undefined) return { steps: own.steps, told: rows };
  const [here, there] = [rows[place] as Told, rows[other] as Told];
  return {
    steps: own.steps.toSpliced(at, 1).toSpliced(to, 0, step),
    told: rows
      .with(place, { ...there, card_step: at + 1 })
      .with(other, { ...here, card_step: to + 1 }),
  };
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
  per: null,
  where: null,
};

/** The minutes of a step: of hands, of waiting, or seconds on each piece. */
export function minutesOf(step: Told): string {
  const hands = step.hands_min > 0 ? length(Math.max(Math.round(step.hands_min), 1)) : "";
  const most = step.wait_most_min === null ? "" : ` to ${length(Math.round(step.wait_most_min))}`;
  const wait = step.wait_min > 0 ? `wait ${length(Math.round(step.wait_min))}${most}` : "";
  const each = step.per === "piece" && step.each_s > 0 ? `${Math.round(step.each_s)} s each` : "";
  return [hands, wait, each].filter(Boolean).join(", ");
}

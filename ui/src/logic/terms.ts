/** What each term means, told where it stands; one sentence or two, in a baker's words. */
export const TERMS = {
  ratio: [
    "W/T",
    "Baked width divided by baked thickness. A thin, wide piece has a high figure, a plump one a low one; it tells spread apart from size.",
  ],
  band: [
    "eight in ten",
    "Of ten such bakes, eight are foreseen to come out between these two figures, one narrower and one wider. It is as wide as card, oven and hands leave it open, and narrows with each bake that you write down.",
  ],
  rim: [
    "the rim",
    "How far the widest piece in ten reaches. Where two rims meet, two pieces may run together.",
  ],
  flourPercent: [
    "% flour",
    "Baker’s percent: each line against all flour, starch and grain, which is 100 % in all. So two cards compare whatever their size.",
  ],
  balance: [
    "the boxes",
    "Where most cards of this kind of dough stand. Outside a box nothing is wrong; it says in which direction this dough is unusual.",
  ],
  proven: [
    "proven",
    "Every other order of the jobs was ruled out: none is better with these hands, sheets and shelves.",
  ],
  holdsUp: [
    "what holds it up",
    "The chain of steps that wait for one another from the first to the last. Only what shortens one of these makes all ready sooner.",
  ],
  moves: [
    "what moves it",
    "How much wider or narrower each trait of this dough makes the piece, against a plain one; all together give the width.",
  ],
  learnt: [
    "learnt",
    "Your own measured bakes shift what the model alone foresees: a little after one, nearly all of the difference after several that agree.",
  ],
} as const satisfies Record<string, readonly [string, string]>;

export type TermKey = keyof typeof TERMS;

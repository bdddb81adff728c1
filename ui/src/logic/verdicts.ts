/** What a baker says of a bake, by the key under which it is kept. */
export const VERDICTS = [
  ["again", "bake it again"],
  ["change", "change something"],
  ["never", "never again"],
] as const;

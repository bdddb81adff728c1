import type { DraftPart, PartKind } from "../../logic/draft";

export const PART_KINDS: Record<PartKind, string> = {
  wash: "Wash",
  filling: "Filling",
  coating: "Coating",
  topping: "Topping held back",
  icing: "Icing",
  dip: "Dip",
  dusting: "Dusting",
  bench: "Bench",
};

export const PART_OPTIONS = Object.entries(PART_KINDS) as [PartKind, string][];

/** What a part is called where it stands among the others. */
export const partWords = ({ kind, name }: Pick<DraftPart, "kind" | "name">): string =>
  kind === "bench"
    ? "For the bench: in no piece"
    : name.toLowerCase() === kind
      ? `${PART_KINDS[kind]}, beside the dough`
      : `${name}, beside the dough (${kind})`;

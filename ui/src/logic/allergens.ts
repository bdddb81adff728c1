import type { Study } from "../api/client";

type Allergen = Study["allergens"][number];

/** What is in it, and what may be by its label: “Contains wheat, eggs; may contain soy”. */
export function contains(allergens: readonly Allergen[]): string {
  const named = (surely: boolean, words: string) => {
    const names = allergens.filter((one) => one.surely === surely).map((one) => one.name);
    return names.length > 0 ? [`${words} ${names.join(", ")}`] : [];
  };
  const said = [...named(true, "contains"), ...named(false, "may contain")].join("; ");
  return said.charAt(0).toUpperCase() + said.slice(1);
}

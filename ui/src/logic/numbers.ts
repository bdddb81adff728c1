/** A number as people type it, with a point or a comma; NaN for what is none. */
export const parse = (text: string): number =>
  text.trim() === "" ? Number.NaN : Number(text.trim().replace(",", ".").replace("−", "-"));

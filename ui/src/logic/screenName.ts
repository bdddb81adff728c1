const PHONE_PX = 600;
/** A screen by the mark of its browser, and what bakers call it. */
export interface Screen {
  id: string;
  name: string;
}

/** What bakers call a screen, by its shorter side and whether fingers press it. */
export const screenName = (shorter: number, fingers: boolean): string =>
  !fingers ? "Desk" : shorter < PHONE_PX ? "Phone" : "Tablet";

/** Names that tell screens apart: the second of one kind is “Desk 2”. */
export function namesApart(screens: readonly Screen[]): [string, string][] {
  const seen = new Map<string, number>();
  return screens.map(({ id, name }) => {
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return [id, count === 1 ? name : `${name} ${count}`];
  });
}

import type { Activity, BakingSession, Schemas, Tray } from "../api/client";

type Says = Schemas["Says"];
export type DrawnIn = Says["drawn_in"][number];

export interface DrawnJob {
  /** Whether what the kind asks for beside laying pieces out belongs to this job. */
  making: boolean;
  /** The sheet of this job's tray, with as many places as it has pieces. */
  layout: Tray["layouts"][number] | null;
}

/** The pieces of a dough that are called so. */
export const ofSize = <Of extends { word: string }>(
  tray: { also: Of[] },
  size: string,
): Of | undefined => tray.also.find(({ word }) => word === size);

/** What of a dough's pieces is drawn beside a job. */
export function drawnOf(
  kind: Activity["kind"],
  says: Pick<Says, "tab" | "drawn_in" | "portioned">,
  tray: Pick<Tray, "layouts" | "also">,
  on: BakingSession["trays"][number] | undefined,
): DrawnJob {
  const making = says.tab !== "" && says.drawn_in.some((one) => one === kind);
  // What is not portioned piece by piece is drawn whole already.
  if (kind !== "portion" || on === undefined || says.portioned) return { making, layout: null };
  const layouts = on.size ? (ofSize(tray, on.size)?.layouts ?? []) : tray.layouts;
  // Fullest first: the last one that holds them is the nearest.
  const full = layouts.filter((layout) => layout.centres.length >= on.pieces).at(-1);
  return {
    making,
    layout: full ? { ...full, centres: full.centres.slice(0, on.pieces) } : null,
  };
}

import type { Activity, BakingSession } from "../../api/client";

/** A row of the day: a place, or one of several like places. */
export interface Row {
  key: string;
  label: string;
  top: number;
  height: number;
  wash: "plain" | "cold" | "oven";
}

export interface Day {
  rows: Map<string, Row>;
  from: number;
  to: number;
  height: number;
  rackLane: Map<string, number>;
}

const GAP = 12;
export const LANE = 20;

/** Give each tray cooling on the rack a lane of its own while it is there. */
function rackLanes(activities: Activity[]): { lanes: Map<string, number>; most: number } {
  const freeAt: number[] = [];
  const lanes = new Map<string, number>();
  for (const a of activities.filter((x) => x.kind === "cool")) {
    let lane = freeAt.findIndex((end) => end <= a.start_at);
    if (lane < 0) lane = freeAt.length;
    freeAt[lane] = a.end_at;
    if (a.tray) lanes.set(a.tray, lane);
  }
  return { lanes, most: Math.max(freeAt.length, 1) };
}

/** Lay the places of a session out from top to bottom. */
export function layDay(session: BakingSession): Day {
  const { lanes, most } = rackLanes(session.activities);
  const rows = new Map<string, Row>();
  let top = 30;
  const add = (key: string, label: string, height: number, wash: Row["wash"], gap = GAP) => {
    rows.set(key, { key, label, top, height, wash });
    top += height + gap;
  };
  add("hands", "Hands", 44, "plain");
  if (session.activities.some((a) => a.kind === "chill")) add("cold", "Cold", 34, "cold");
  for (let n = 1; n <= session.sheets; n++) {
    add(
      `sheet${n}`,
      session.sheets === 1 ? "Bench" : `Bench, sheet ${n}`,
      26,
      "plain",
      n === session.sheets ? GAP : 0,
    );
  }
  for (let n = 1; n <= session.shelves; n++) {
    add(`shelf${n}`, shelfName(n, session.shelves), 50, "oven", n === session.shelves ? GAP : 0);
  }
  add("rack", "Rack", most * LANE + 8, "plain", 0);
  const from = Math.min(...session.activities.map((a) => a.start_at));
  return { rows, from, to: session.finish_at, height: top + 8, rackLane: lanes };
}

export function shelfName(n: number, shelves: number): string {
  if (shelves === 1) return "Oven";
  if (n === 1) return "Oven, upper";
  return n === shelves ? "Oven, lower" : `Oven, shelf ${n}`;
}

/** Marks of the time axis: a round number of minutes apart, so that about eight fit. */
export function timeMarks(from: number, to: number): number[] {
  const steps = [5, 10, 15, 30, 60, 120, 240].map((m) => m * 60_000);
  const step = steps.find((s) => (to - from) / s <= 9) ?? 480 * 60_000;
  const offset = new Date(from).getTimezoneOffset() * 60_000;
  const first = Math.ceil((from - offset) / step) * step + offset;
  return Array.from(
    { length: Math.max(0, Math.floor((to - first) / step) + 1) },
    (_, n) => first + n * step,
  );
}

import type { Activity, BakingSession } from "../../src/api/client";

export const MINUTE = 60_000;

/** A job of a made-up session; times in minutes. */
export function job(
  kind: Activity["kind"],
  start: number,
  end: number,
  more: Partial<Activity> = {},
): Activity {
  const tray = more.tray === undefined ? "A1" : more.tray;
  return {
    key: `${tray ?? more.dough ?? "oven1"}.${kind}${more.round ? more.round + 1 : ""}`,
    kind,
    dough: "A",
    tray,
    round: 0,
    hands: !["bake", "chill", "cool", "rest", "heat", "set"].includes(kind),
    start_at: start * MINUTE,
    end_at: end * MINUTE,
    due_at: start * MINUTE,
    done_at: null,
    who: 0,
    sheet: 1,
    oven: 1,
    shelf: 1,
    to_shelf: null,
    said: null,
    overs: [],
    ...more,
  } as Activity;
}

export const session = (activities: Activity[], more: Partial<BakingSession> = {}): BakingSession =>
  ({
    activities,
    ovens: [1],
    workers: ["you"],
    sheets: 2,
    sheet_names: ["sheet 1", "sheet 2", "pan"],
    finish_at: Math.max(...activities.map((a) => a.end_at)),
    ...more,
  }) as BakingSession;

/** One tray from portioning to cold. */
export const oneTray = (at: number, tray = "A1"): Activity[] => [
  job("portion", at, at + 5, { tray }),
  job("load", at + 5, at + 6, { tray }),
  job("bake", at + 6, at + 18, { tray }),
  job("turn", at + 12, at + 13, { tray }),
  job("out", at + 18, at + 19, { tray }),
  job("rack", at + 22, at + 23, { tray }),
  job("cool", at + 23, at + 43, { tray }),
];

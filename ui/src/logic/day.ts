import type { Activity, BakingSession } from "../api/client";
import { units } from "./kitchenUnits";

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
  /** The lane of each tray on the rack, and of each dough in the cold. */
  lanes: Map<string, number>;
  rackLane: number;
  coldLane: number;
}

const GAP = 10;

/** Give each span a lane of its own while it lasts. */
function laneOut(activities: Activity[], key: (a: Activity) => string, lanes: Map<string, number>) {
  const freeAt: number[] = [];
  const sorted = [...activities].sort((a, b) => a.start_at - b.start_at);
  for (const a of sorted) {
    let lane = freeAt.findIndex((end) => end <= a.start_at);
    if (lane < 0) lane = freeAt.length;
    freeAt[lane] = a.end_at;
    lanes.set(key(a), lane);
  }
  return Math.max(freeAt.length, 1);
}

/** Lay the places of a session out from top to bottom. */
export function layDay(session: BakingSession, until = 0): Day {
  const lanes = new Map<string, number>();
  const of = (...kinds: Activity["kind"][]) =>
    session.activities.filter((a) => kinds.includes(a.kind));
  const ends = new Map(of("cool", "finish", "set").map((a) => [a.tray, a.end_at]));
  const onRack = of("cool").map((a) => ({ ...a, end_at: ends.get(a.tray) ?? a.end_at }));
  const racked = laneOut(onRack, (a) => `rack ${a.tray}`, lanes);
  const cooled = laneOut(of("chill"), (a) => `cold ${a.key}`, lanes);
  const rackLane = racked > 8 ? 11 : racked > 4 ? 15 : 20;
  const coldLane = cooled > 2 ? 17 : 26;
  const rows = new Map<string, Row>();
  let top = 30;
  const add = (key: string, label: string, height: number, wash: Row["wash"], gap = GAP) => {
    rows.set(key, { key, label, top, height, wash });
    top += height + gap;
  };
  session.workers.forEach((name, n) => {
    const last = n === session.workers.length - 1;
    add(`hands${n}`, n === 0 ? "Hands" : name, n === 0 ? 44 : 30, "plain", last ? GAP : 0);
  });
  if (of("chill").length > 0) add("cold", "Cold", cooled * coldLane + 8, "cold");
  // A kind of sheet or pan that the session does not use takes no room.
  const used = new Set(of("portion").map((a) => a.sheet ?? 1));
  const sheets = session.sheet_names
    .map((name, n) => ({ name, number: n + 1 }))
    .filter(({ number }) => number <= session.sheets || used.has(number));
  const sheet = sheets.length > 4 ? 18 : 24;
  sheets.forEach(({ name, number }, n) => {
    const label = sheets.length === 1 ? "Bench" : `Bench, ${name}`;
    add(`sheet${number}`, label, sheet, "plain", n === sheets.length - 1 ? GAP : 0);
  });
  session.ovens.forEach((shelves, oven) => {
    for (let n = 1; n <= shelves; n++) {
      const label = shelfName(n, shelves, session.ovens.length > 1 ? oven + 1 : undefined);
      add(`oven${oven + 1}shelf${n}`, label, 46, "oven", n === shelves ? GAP : 0);
    }
  });
  add("rack", "Rack", racked * rackLane + 8, "plain", 0);
  const from = Math.min(...session.activities.map((a) => a.start_at));
  const to = Math.max(
    until,
    session.finish_at,
    ...session.activities.filter((a) => a.hands).map((a) => a.end_at),
  );
  return { rows, from, to, height: top + 8, lanes, rackLane, coldLane };
}

/** The rows in which an activity stands. */
export function rowsOf(a: Activity): string[] {
  const found = a.hands ? [`hands${a.who ?? 0}`] : [];
  if (a.kind === "portion" || a.kind === "slice") found.push(`sheet${a.sheet ?? 1}`);
  if (a.kind === "bake") found.push(`oven${a.oven ?? 1}shelf${a.shelf ?? 1}`);
  if (a.to_shelf !== null) found.push(`oven${a.oven ?? 1}shelf${a.to_shelf}`);
  if (a.kind === "chill") found.push("cold");
  if (a.kind === "cool" || a.kind === "set" || a.kind === "finish") found.push("rack");
  return found;
}

export function shelfName(n: number, shelves: number, oven?: number): string {
  const name = oven === undefined ? "Oven" : `Oven ${oven}`;
  if (shelves === 1) return name;
  if (n === 1) return `${name}, upper`;
  return n === shelves ? `${name}, lower` : `${name}, shelf ${n}`;
}

const MINUTE = 60_000;
const LONG_GAP = 100 * MINUTE;

/** A stretch of time and where it stands on the drawing. */
interface Stretch {
  from: number;
  to: number;
  x: number;
  width: number;
  broken: boolean;
}

/** The time axis: long stretches in which no hand is needed are drawn short, with a break. */
export class Axis {
  readonly stretches: Stretch[];

  constructor(session: BakingSession, day: Day, left: number, width: number) {
    const busy = session.activities
      .filter((a) => a.hands || a.kind === "bake" || a.kind === "heat")
      .map((a) => [a.start_at, a.end_at] as const)
      .sort((a, b) => a[0] - b[0]);
    const parts: { from: number; to: number; broken: boolean }[] = [];
    let at = day.from;
    let until = day.from;
    for (const [start, end] of [...busy, [day.to, day.to] as const]) {
      if (start - until > LONG_GAP) {
        parts.push({ from: at, to: until + 10 * MINUTE, broken: false });
        parts.push({ from: until + 10 * MINUTE, to: start - 10 * MINUTE, broken: true });
        at = start - 10 * MINUTE;
      }
      until = Math.max(until, end);
    }
    parts.push({ from: at, to: Math.max(day.to, at + MINUTE), broken: false });
    const breaks = parts.filter((p) => p.broken).length;
    const drawn = parts.filter((p) => !p.broken).reduce((sum, p) => sum + p.to - p.from, 0);
    const short = Math.min(58, width / (2 * breaks + 1));
    const scale = (width - breaks * short) / Math.max(drawn, 1);
    let x = left;
    this.stretches = parts.map((part) => {
      const wide = part.broken ? short : (part.to - part.from) * scale;
      const stretch = { ...part, x, width: wide };
      x += wide;
      return stretch;
    });
  }

  /** Where a moment stands. */
  x(ms: number): number {
    const s =
      this.stretches.find((part) => ms <= part.to) ??
      (this.stretches[this.stretches.length - 1] as Stretch);
    const share = (ms - s.from) / Math.max(s.to - s.from, 1);
    return s.x + Math.min(Math.max(share, 0), 1) * s.width;
  }

  /** The moment that stands there. */
  at(x: number): number {
    const s =
      this.stretches.find((part) => x <= part.x + part.width) ??
      (this.stretches[this.stretches.length - 1] as Stretch);
    return s.from + ((x - s.x) / Math.max(s.width, 1)) * (s.to - s.from);
  }

  /** Marks of the axis: a round number of minutes apart, so that their words do not meet. */
  marks(): number[] {
    const whole = this.stretches.filter((s) => !s.broken);
    const wide = whole.reduce((sum, s) => sum + s.width, 0);
    const time = whole.reduce((sum, s) => sum + s.to - s.from, 0);
    const steps = [5, 10, 15, 30, 60, 120, 240].map((m) => m * MINUTE);
    const apart = units().clock === "12 h" ? APART_12 : APART_24;
    const step = steps.find((s) => (s / Math.max(time, 1)) * wide >= apart) ?? 480 * MINUTE;
    return whole.flatMap((s) => roundTimes(s.from, s.to, step));
  }
}

/** Between the middles of two marks, by the clock that is read: the last one may end at the edge. */
const APART_24 = 78;
const APART_12 = 104;

const HOUR = 60 * MINUTE;
const offset = (ms: number): number => new Date(ms).getTimezoneOffset() * MINUTE;

/** The times between two that fall on round minutes by the kitchen's clock, also where it is put on
 * or back between them. */
export function roundTimes(from: number, to: number, step: number): number[] {
  const first = Math.ceil((from - offset(from)) / step) * step + offset(from);
  const count = Math.max(0, Math.floor((to + HOUR - first) / step) + 1);
  const all = Array.from({ length: count }, (_, n) => first + n * step);
  // Within the hour that is put on or back, marks an hour or less apart fall on round minutes anyway.
  const moved = step <= HOUR ? all : all.map((at) => at + offset(at) - offset(from));
  return moved.filter((at) => at >= from && at <= to);
}

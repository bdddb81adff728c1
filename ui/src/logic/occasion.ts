import type { Schemas } from "../api/client";
import { timeOn } from "./moments";

export type Occasion = Schemas["Occasion"];
export type OccasionKind = Occasion["kinds"][number];
export type FreeTime = NonNullable<Occasion["free"]>[number];

const DAY_MS = 86_400_000;
const [MORNING, EVENING, NIGHT, AFTERNOON] = [8 * 60, 18 * 60, 22 * 60, 15 * 60];

/** The next Saturday afternoon that is not today. */
export function nextSaturday(now: number): number {
  const days = (6 - new Date(now).getDay() + 7) % 7 || 7;
  return timeOn(now, AFTERNOON, days);
}

/** Hours in which most people can bake for then: the evening before, and that day from the morning
 * on; of a morning's occasion the two evenings before. */
export function usualHours(at: number, now: number): FreeTime[] {
  const evening = (before: number): FreeTime => ({
    from_at: timeOn(at, EVENING, -before),
    to_at: timeOn(at, NIGHT, -before),
  });
  const morning: FreeTime = { from_at: timeOn(at, MORNING), to_at: at };
  const long = morning.to_at - morning.from_at >= 2 * 3_600_000;
  const hours = long ? [evening(1), morning] : [evening(2), evening(1)];
  const ahead = hours.filter((span) => span.to_at > now + 3_600_000);
  return ahead.map((span) => ({ ...span, from_at: Math.max(span.from_at, now) }));
}

/** Hours as they are once the occasion is at another time: as many days on as it is. */
export function movedHours(free: readonly FreeTime[], from: number, to: number): FreeTime[] {
  const midnight = (ms: number) => timeOn(ms, 0);
  const days = Math.round((midnight(to) - midnight(from)) / DAY_MS);
  const on = (ms: number) => {
    const d = new Date(ms);
    return timeOn(ms, d.getHours() * 60 + d.getMinutes(), days);
  };
  return free.map((span) => ({
    from_at: on(span.from_at),
    to_at: span.to_at === from ? to : on(span.to_at),
  }));
}

/** Tomorrow morning. */
export const tomorrow = (now: number): number => timeOn(now, MORNING, 1);

const FRACTIONS: readonly (readonly [number, string])[] = [
  [1 / 8, "⅛"],
  [1 / 4, "¼"],
  [1 / 3, "⅓"],
  [3 / 8, "⅜"],
  [1 / 2, "½"],
  [5 / 8, "⅝"],
  [2 / 3, "⅔"],
  [3 / 4, "¾"],
  [7 / 8, "⅞"],
];
const NEAR = 0.004;

/** How many times over, as a cook says it: ½, 1½, 2, 2.4. */
export function timesWords(times: number): string {
  const whole = Math.floor(times + NEAR);
  const rest = times - whole;
  if (Math.abs(rest) <= NEAR) return String(whole);
  const sign = FRACTIONS.find(([value]) => Math.abs(rest - value) <= NEAR)?.[1];
  if (sign) return `${whole || ""}${sign}`;
  return String(Math.round(times * 100) / 100);
}

/** How many times over, as it is typed: ½, 1/2, 1 1/2, 1½, 0.5, 0,5, ×2; NaN for what is none. */
export function readTimes(text: string): number {
  let rest = text
    .trim()
    .replace(/^[×x*]\s*|\s*[×x]$/gi, "")
    .replace(",", ".");
  let part = 0;
  for (const [value, sign] of FRACTIONS) {
    if (rest.endsWith(sign)) {
      part = value;
      rest = rest.slice(0, -sign.length).trim();
      if (rest === "") return part;
    }
  }
  const found = /^(?:(\d+(?:\.\d+)?)|(?:(\d+)\s+)?(\d+)\s*\/\s*(\d+))$/.exec(rest);
  if (!found) return Number.NaN;
  const [, plain, whole, above, below] = found;
  if (plain !== undefined) return Number(plain) + part;
  const value = Number(whole ?? 0) + Number(above) / Number(below);
  return part ? Number.NaN : value;
}

/** So many eggs, or what of them a dough has: 3 eggs, 1 white, 2½ yolks. */
export function eggsWords(count: number, of: "egg" | "white" | "yolk" | null): string {
  const name = of === "white" || of === "yolk" ? `egg ${of}` : "egg";
  return `${timesWords(count)} ${name}${Math.abs(count - 1) <= NEAR ? "" : "s"}`;
}

/** Days that something keeps: about a week, 3 to 5 days. */
export const keepsWords = (from: number, to: number): string =>
  from === to ? `${from} days` : `${from} to ${to} days`;

/** An amount of the baker's own money: 1.20, 0.07. */
export const money = (amount: number): string => amount.toFixed(2);

interface Buying {
  buy_g: number;
  packs: number | null;
  pack_g: number | null;
}

/** What is bought: 2 packs of 500 g, or so much of it. */
export function packsWords(one: Buying, mass: (grams: number) => string): string {
  if (one.packs === null || one.pack_g === null) return mass(one.buy_g);
  return `${one.packs} ${one.packs === 1 ? "pack" : "packs"} of ${mass(one.pack_g)}`;
}

/** What is to be bought, as text that is sent to whoever goes shopping: an ingredient a line. */
export function shoppingList(
  called: string,
  needed: readonly (Buying & { name: string })[],
  mass: (grams: number) => string,
): string {
  const lines = needed
    .filter((one) => one.buy_g > 0)
    .map((one) => `${one.name}: ${packsWords(one, mass)}`);
  return [`To buy for ${called}`, ...lines].join("\n");
}

/** When an occasion comes again: a year on where that lies ahead and is near, else the same day of
 * the coming week. */
export function nextTime(at: number, now: number): number {
  const then = new Date(at);
  const minutes = then.getHours() * 60 + then.getMinutes();
  const year = new Date(then);
  year.setFullYear(then.getFullYear() + 1);
  if (at > now) return at;
  if (year.getTime() > now && year.getTime() < now + 14 * DAY_MS) return year.getTime();
  const days = (then.getDay() - new Date(now).getDay() + 7) % 7 || 7;
  return timeOn(now, minutes, days);
}

/** Amounts of several bowls, those that are the same counted together; none where there is none. */
export function alike(grams: readonly number[]): (readonly [number, number])[] {
  const found = new Map<string, [number, number]>();
  for (const amount of grams.filter((one) => one > 0)) {
    const there = found.get(amount.toFixed(2));
    found.set(amount.toFixed(2), [amount, (there?.[1] ?? 0) + 1]);
  }
  return [...found.values()];
}

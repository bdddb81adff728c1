/** Dates and times as people write them, on the kitchen's clock and in its order of dates. */

import { clock, date } from "./format";
import { units } from "./kitchenUnits";

const DAY_MS = 86_400_000;
/** From so far on a date has its year. */
const HALF_A_YEAR = 180 * DAY_MS;
const MONTHS = "jan feb mar apr may jun jul aug sep oct nov dec".split(" ");
const WEEKDAYS = "sun mon tue wed thu fri sat".split(" ");
const NEAR: Record<string, number> = { yesterday: -1, today: 0, tomorrow: 1 };
const weekdayFormat = new Intl.DateTimeFormat("en-GB", { weekday: "short" });

const two = (n: number): string => String(n).padStart(2, "0");

/** A day with its weekday: Sat 28 Nov, Sat Nov 28, or 2026-11-28 where the year comes first. */
export function writeDay(ms: number): string {
  const d = new Date(ms);
  const iso = `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`;
  const far = Math.abs(ms - Date.now()) > HALF_A_YEAR ? ` ${d.getFullYear()}` : "";
  const day = units().dates === "year first" ? iso : `${date(ms)}${far}`;
  return `${weekdayFormat.format(ms)} ${day}`;
}

export const writeMoment = (ms: number): string => `${writeDay(ms)}, ${clock(ms)}`;

/** Which of two equal times on the night when clocks are put back: 02:30 (UTC+1). */
const OFFSET = /\s*\(utc([+−-])(\d{1,2})(?::(\d{2}))?\)$/i;

/** Minutes after midnight of a time of day: 14:30, 2:30 pm, 2pm, 1430; NaN for what is none. */
export function readTime(text: string): number {
  const time = text.trim().replace(OFFSET, "");
  const found = /^(\d{1,2})(?:[:.]?(\d{2}))?\s*([ap])?\.?(?:m\.?)?$/i.exec(time);
  if (!found) return Number.NaN;
  const [hour, minute] = [Number(found[1]), Number(found[2] ?? 0)];
  const half = found[3]?.toLowerCase();
  if (minute > 59 || (half ? hour < 1 || hour > 12 : hour > 23)) return Number.NaN;
  return (half ? (hour % 12) + (half === "p" ? 12 : 0) : hour) * 60 + minute;
}

const midnight = (ms: number, days = 0): Date => {
  const d = new Date(ms);
  return new Date(d.getFullYear(), d.getMonth(), d.getDate() + days);
};

/** So many minutes after midnight by the clock, on the day of a moment or so many days after it. */
export const timeOn = (ms: number, minutes: number, days = 0): number => {
  const d = new Date(ms);
  return new Date(d.getFullYear(), d.getMonth(), d.getDate() + days, 0, minutes).getTime();
};

/** The day of that number in that month; of the year that is nearest to now where none is said. */
function dayOf(day: number, month: number, year: number | null, now: number): number {
  if (month < 1 || month > 12 || day < 1) return Number.NaN;
  const there = (y: number) => new Date(y, month - 1, day);
  const full = year === null ? null : year < 100 ? 2000 + year : year;
  const y = new Date(now).getFullYear();
  const near = [y - 1, y, y + 1].map(there);
  const found =
    full === null
      ? near.reduce((a, b) => (Math.abs(+b - now) < Math.abs(+a - now) ? b : a))
      : there(full);
  return found.getDate() === day ? found.getTime() : Number.NaN;
}

/** Midnight of a day, as it is written: today, Sat, 28 Nov, Nov 28, 28.11., 11/28/2026, 2026-11-28;
 * NaN for what is none. */
export function readDay(text: string, now: number): number {
  let rest = text
    .trim()
    .toLowerCase()
    .replace(/[,\s]+/g, " ");
  const near = NEAR[rest];
  if (near !== undefined) return midnight(now, near).getTime();
  const weekday = /^(sun|mon|tue|wed|thu|fri|sat)[a-z]*/.exec(rest);
  if (weekday) {
    const wanted = WEEKDAYS.indexOf(weekday[1] ?? "");
    rest = rest.slice(weekday[0].length).trim();
    if (rest === "") return midnight(now, (wanted - new Date(now).getDay() + 7) % 7).getTime();
  }
  const iso = /^(\d{4})[-./ ](\d{1,2})[-./ ](\d{1,2})$/.exec(rest);
  if (iso) return dayOf(Number(iso[3]), Number(iso[2]), Number(iso[1]), now);
  const worded =
    /^(\d{1,2})\.? ([a-z]{3,})\.?(?: (\d{2,4}))?$/.exec(rest) ??
    /^([a-z]{3,})\.? (\d{1,2})(?: (\d{2,4}))?$/.exec(rest);
  if (worded) {
    const [one, other] = [worded[1] ?? "", worded[2] ?? ""];
    const [day, name] = /^\d/.test(one) ? [one, other] : [other, one];
    const year = worded[3] ? Number(worded[3]) : null;
    return dayOf(Number(day), MONTHS.indexOf(name.slice(0, 3)) + 1, year, now);
  }
  const figures = /^(\d{1,2})[-./ ](\d{1,2})(?:[-./ ](\d{2,4})?)?$/.exec(rest);
  if (!figures) return Number.NaN;
  const [one, other] = [Number(figures[1]), Number(figures[2])];
  const [day, month] = units().dates === "day first" ? [one, other] : [other, one];
  return dayOf(day, month, figures[3] ? Number(figures[3]) : null, now);
}

const TIME_AT_END = /(?:^|[\sT,]|at )(\d{1,2}(?:[:.]\d{2}(?!\.))?\s*(?:[ap]\.?m?\.?)?|\d{4})$/i;

/** A moment in ms, as it is written: a day and a time, or a time alone on the day of `near`; NaN for
 * what is none. */
export function readMoment(text: string, near: number, now: number): number {
  const offset = OFFSET.exec(text.trim());
  const written = text.trim().replace(OFFSET, "");
  const time = TIME_AT_END.exec(written);
  if (!time) return Number.NaN;
  const minutes = readTime(time[1] ?? "");
  const day = written
    .slice(0, time.index)
    .replace(/[,\s]+$/, "")
    .replace(/ at$/i, "");
  const start = day === "" ? midnight(near).getTime() : readDay(day, now);
  if (!Number.isFinite(minutes) || !Number.isFinite(start)) return Number.NaN;
  const at = timeOn(start, minutes);
  if (!offset) return at;
  const east = Number(offset[2]) * 60 + Number(offset[3] ?? 0);
  const west = offset[1] === "+" ? -east : east;
  return at + (west - new Date(at).getTimezoneOffset()) * 60_000;
}

/** The next or the last mark of so many minutes on the clock. */
export function stepped(ms: number, minutes: number): number {
  const each = Math.abs(minutes) * 60_000;
  const zone = new Date(ms).getTimezoneOffset() * 60_000;
  const marks = (ms - zone) / each;
  return (minutes > 0 ? Math.floor(marks + 1) : Math.ceil(marks - 1)) * each + zone;
}

export const nextDay = (ms: number, days: number): number => {
  const d = new Date(ms);
  d.setDate(d.getDate() + days);
  return d.getTime();
};

export const noonOf = (ms: number): number => timeOn(ms, 12 * 60);

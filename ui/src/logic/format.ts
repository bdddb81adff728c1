/** Figures as a baker reads them. */

export const grams = (g: number): string => (g >= 100 ? g.toFixed(0) : trim(g.toFixed(1)));

const trim = (text: string): string => text.replace(/\.0$/, "");

export const cm = (mm: number): string => (mm / 10).toFixed(1);

/** A size as a baker says it: 6 mm, 2.5 cm. */
export const size = (mm: number): string =>
  mm < 15 ? `${trim(mm.toFixed(1))} mm` : `${trim(cm(mm))} cm`;

export const signed = (value: number, digits = 1): string =>
  `${value < -0.05 ? "−" : "+"}${Math.abs(value).toFixed(digits)}`;

export const percent = (value: number): string =>
  value >= 10 ? value.toFixed(0) : trim(value.toFixed(1));

const clockFormat = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const dayFormat = new Intl.DateTimeFormat("en-GB", { weekday: "short" });
const dateFormat = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });

export const clock = (ms: number): string => clockFormat.format(ms);

/** The time, with its weekday when that is not today's. */
export function when(ms: number, now: number): string {
  const same = new Date(ms).toDateString() === new Date(now).toDateString();
  return same ? clock(ms) : `${dayFormat.format(ms)} ${clock(ms)}`;
}

export const date = (ms: number): string => dateFormat.format(ms);

/** Minutes as a length: 45 min, 1 h 50. */
export function length(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  const rest = whole % 60;
  return rest ? `${Math.floor(whole / 60)} h ${String(rest).padStart(2, "0")}` : `${whole / 60} h`;
}

/** A countdown: 4:05, and how long it is over when negative. */
export function countdown(ms: number): string {
  const seconds = Math.round(Math.abs(ms) / 1000);
  return `${ms < 0 ? "+" : ""}${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}

/** A local date and time for a date field, and back to UTC milliseconds. */
export function toField(ms: number): string {
  const d = new Date(ms - new Date(ms).getTimezoneOffset() * 60_000);
  return d.toISOString().slice(0, 16);
}

export const fromField = (text: string): number => new Date(text).getTime();

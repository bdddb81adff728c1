import type { Activity, BakingSession, Schemas } from "../api/client";
import type { BakeEvent } from "./events";
import { length } from "./format";
import { stepOf, wordsOf } from "./jobs";

/** Something that was said of a session, and waits for the server to hear of it. */
export interface Waiting {
  /** By which the server knows it again. */
  key: string;
  session: number;
  /** What happened, or that the last thing is taken back. */
  what: BakeEvent | "undo";
  words: string;
  /** When it was said, by this device's clock (ms). */
  at: number;
  /** Whether it was sent: its answer may be what was lost. */
  tried: boolean;
  /** Why it came too late; null while it waits. */
  late: string | null;
}

type Happened = { what: BakeEvent; at: number };
type Along = Schemas["AlongOut"];

const LONGEST_MS = 24 * 60 * 60_000;

/** How long it has waited (ms), as far as the server believes it. */
export const waitedMs = ({ at }: Waiting, now: number): number =>
  Math.round(Math.min(Math.max(now - at, 0), LONGEST_MS));

/** What waits yet, of one session where it is named. */
export const stillWaiting = (all: readonly Waiting[], session?: number): Waiting[] =>
  all.filter((one) => one.late === null && (session === undefined || one.session === session));

/** A session as it is once what waits has been heard; `ahead` is the server's clock less this one's
 * (ms). The rest is planned by the server alone: until it hears, jobs stay when they were. */
export function withWaiting(
  session: BakingSession,
  all: readonly Waiting[],
  ahead: number,
): BakingSession {
  const mine = stillWaiting(all, session.id);
  if (mine.length === 0) return session;
  const so = { ...session, happened: session.happened + mine.length, can_undo: true };
  return notTakenBack(mine).reduce((before, { what, at }) => heard(before, what, at + ahead), so);
}

/** What takes this one back; nothing where nothing does. */
export function takenBackBy(all: readonly Waiting[], one: Waiting): Waiting | undefined {
  let since = 0;
  const after = stillWaiting(all, one.session);
  return after.slice(after.findIndex(({ key }) => key === one.key) + 1).find(({ what }) => {
    since += what === "undo" ? -1 : 1;
    return since < 0;
  });
}

function notTakenBack(mine: readonly Waiting[]): Happened[] {
  const left: Happened[] = [];
  for (const { what, at } of mine) {
    if (what === "undo") left.pop();
    else left.push({ what, at });
  }
  return left;
}

function heard(so: BakingSession, what: BakeEvent, at: number): BakingSession {
  const job = so.activities.find(({ key }) => key === what.activity);
  if (!job) return so;
  if (what.kind === "ticked") {
    const place = Number(what.what);
    const ticked = job.ticked.includes(place)
      ? job.ticked.filter((one) => one !== place)
      : [...job.ticked, place];
    return changed(so, [{ ...job, ticked }]);
  }
  if (what.kind === "more") return changed(so, longer(so, job, (what.minutes ?? 0) * 60_000));
  if (what.kind !== "done" && what.kind !== "skip") return so;
  if (job.done_at !== null) return so;
  const done = { ...job, done_at: at };
  return changed(so, job.kind === "load" ? [done, ...inSince(so, job, at)] : [done]);
}

function changed(session: BakingSession, jobs: readonly Activity[]): BakingSession {
  const by = new Map(jobs.map((job) => [job.key, job]));
  return { ...session, activities: session.activities.map((one) => by.get(one.key) ?? one) };
}

/** A tray that went into the oven then comes out, and is turned, so long after. */
function inSince(session: BakingSession, load: Activity, at: number): Activity[] {
  const bake = stepOf(session, load, "bake");
  if (!bake) return [];
  return (["turn", "out"] as const).flatMap((kind) => {
    const job = stepOf(session, load, kind);
    return job ? [{ ...job, due_at: at + job.start_at - bake.start_at }] : [];
  });
}

function longer(session: BakingSession, bake: Activity, ms: number): Activity[] {
  const out = stepOf(session, bake, "out");
  const later = { ...bake, end_at: bake.end_at + ms };
  return out ? [later, { ...out, due_at: out.due_at + ms, start_at: out.start_at + ms }] : [later];
}

/** What is weighed for a job, with what was weighed and waits; how even that is the server says. */
export const alongWith = (along: Along, all: readonly Waiting[], session: number): Along =>
  notTakenBack(stillWaiting(all, session)).reduce((so, { what }) => weighedIn(so, what), along);

function weighedIn(along: Along, what: BakeEvent): Along {
  if (what.kind !== "weighed" || what.activity !== along.activity) return along;
  const grams = what.grams ?? 0;
  const { portions } = along;
  if (typeof what.what !== "string") {
    const weighed_g = [...(portions?.weighed_g ?? []), grams];
    return { ...along, portions: portions && { ...portions, weighed_g } };
  }
  const ingredients = along.ingredients.map((one) =>
    one.key === what.what
      ? { ...one, weighed_g: grams, more_g: Math.max(one.more_g + (one.weighed_g ?? 0) - grams, 0) }
      : one,
  );
  return { ...along, ingredients };
}

/** What was said, in a few words. */
export function saidInWords(session: BakingSession, what: BakeEvent | "undo"): string {
  if (what === "undo") return "the last thing taken back";
  const job = session.activities.find(({ key }) => key === what.activity);
  const words = job ? wordsOf(job).short : (what.activity ?? "");
  const minutes = length(what.minutes ?? 0);
  switch (what.kind) {
    case "done":
      return `done: ${words}`;
    case "skip":
      return `left out: ${words}`;
    case "more":
      return `${minutes} more: tray ${job?.tray ?? ""}`;
    case "away":
      return `away for ${minutes}`;
    case "slow":
      return `the oven is slow, ${minutes}`;
    case "felt":
      return `${what.what}, as it was felt: ${words}`;
    case "dropped":
      return `dropped: tray ${what.activity}`;
    case "ticked":
      return `a step ticked: ${words}`;
    case "weighed":
    case "scaled":
      return `weighed: ${words}`;
    default:
      return "the session closed";
  }
}

/** What a browser kept of it; what it cannot be is left. */
export function readWaiting(text: string | null): Waiting[] {
  try {
    const found: unknown = JSON.parse(text ?? "[]");
    return Array.isArray(found) ? found.filter(isWaiting) : [];
  } catch {
    return [];
  }
}

function isWaiting(one: Partial<Waiting> | null): one is Waiting {
  return (
    typeof one?.key === "string" &&
    typeof one.session === "number" &&
    (one.what === "undo" || typeof one.what?.kind === "string") &&
    typeof one.words === "string" &&
    typeof one.at === "number" &&
    typeof one.tried === "boolean" &&
    (one.late === null || typeof one.late === "string")
  );
}

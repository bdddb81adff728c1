import type { Activity, BakingSession } from "../api/client";

/** What somebody has to do: the jobs for the hands, and turning the oven's dial. */
export const isJob = (a: Activity): boolean => a.hands || a.kind === "heat";

/** The jobs that are still to do, in the order in which they are due; the dial first, which is done
 * at once and then needs its time. */
export const pendingJobs = (session: BakingSession): Activity[] =>
  session.activities
    .filter((a) => isJob(a) && a.done_at === null)
    .sort(
      (a, b) =>
        a.due_at - b.due_at || otherThanDial(a) - otherThanDial(b) || a.start_at - b.start_at,
    );

const otherThanDial = (a: Activity): number => (a.kind === "heat" ? 0 : 1);

const CANNOT_WAIT: ReadonlySet<Activity["kind"]> = new Set(["turn", "out", "shape"]);
const SOON_MS = 15_000;

/** The job for now: what cannot wait goes before all else once it is due, then the dial. Until the
 * rest is planned again, a tray may be due that has no shelf yet: that is not for now. */
export function jobNow(session: BakingSession, now: number): Activity | undefined {
  const can = doable(session);
  const due = can.filter((job) => job.due_at - now <= SOON_MS);
  return (
    due.find((job) => CANNOT_WAIT.has(job.kind)) ??
    due.find((job) => job.kind === "heat") ??
    can[0] ??
    pendingJobs(session)[0]
  );
}

/** What can be done as the ovens are: no tray is loaded while every shelf has one. */
function doable(session: BakingSession): Activity[] {
  const jobs = pendingJobs(session);
  const shelves = session.ovens.reduce((sum, n) => sum + n, 0);
  const full = inOven(session).length >= shelves;
  return jobs.filter((job) => !full || job.kind !== "load");
}

/** The jobs that are due at that time. */
export const dueJobs = (session: BakingSession, now: number): Activity[] =>
  doable(session).filter((job) => job.due_at <= now);

/** A tray that is in the oven now, with the jobs that end and turn it. */
export interface InOven {
  tray: string;
  bake: Activity;
  out: Activity;
  turn: Activity | undefined;
  loadedAt: number;
}

export function inOven(session: BakingSession): InOven[] {
  return session.activities.flatMap((bake) => {
    if (bake.kind !== "bake" || bake.tray === null) return [];
    const load = stepOf(session, bake, "load");
    const out = stepOf(session, bake, "out");
    if (load?.done_at == null || !out || out.done_at !== null) return [];
    const turn = stepOf(session, bake, "turn");
    return [{ tray: bake.tray, bake, out, turn, loadedAt: load.done_at }];
  });
}

/** The words of a job that somebody does. */
export const wordsOf = (job: Activity): Said => job.said ?? WORDLESS;

export type Said = NonNullable<Activity["said"]>;

const WORDLESS: Said = {
  short: "",
  title: "",
  detail: "",
  cue: "",
  caution: null,
  colour_from: null,
  colour_to: null,
  steps: [],
};

/** A step's words within a list of them. */
export const closed = (step: { text: string }): string => step.text.replace(/[\s.;,]+$/, "");

/** Another step of the same round of the same tray. */
export const stepOf = (
  session: BakingSession,
  of: Activity,
  kind: Activity["kind"],
): Activity | undefined =>
  session.activities.find((a) => a.kind === kind && a.tray === of.tray && a.round === of.round);

import type { Activity, BakingSession } from "../../api/client";
import { grams, length } from "../../app/format";

type SessionDough = BakingSession["doughs"][number];

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
  const jobs = pendingJobs(session);
  const shelves = session.ovens.reduce((sum, n) => sum + n, 0);
  const full = inOven(session).length >= shelves;
  const can = jobs.filter((job) => !full || job.kind !== "load");
  const due = can.filter((job) => job.due_at - now <= SOON_MS);
  return (
    due.find((job) => CANNOT_WAIT.has(job.kind)) ??
    due.find((job) => job.kind === "heat") ??
    can[0] ??
    jobs[0]
  );
}

/** A tray that is in the oven now, with the jobs that end and turn it. */
export interface InOven {
  tray: string;
  bake: Activity;
  out: Activity;
  turn: Activity | undefined;
  loadedAt: number;
}

export function inOven(session: BakingSession): InOven[] {
  const byKey = new Map(session.activities.map((a) => [a.key, a]));
  return session.activities.flatMap((bake) => {
    if (bake.kind !== "bake" || bake.tray === null) return [];
    const load = byKey.get(bake.key.replace("bake", "load"));
    const out = byKey.get(bake.key.replace("bake", "out"));
    if (load?.done_at == null || !out || out.done_at !== null) return [];
    const turn = byKey.get(bake.key.replace("bake", "turn"));
    return [{ tray: bake.tray, bake, out, turn, loadedAt: load.done_at }];
  });
}

export interface Said {
  /** For one line. */
  short: string;
  /** For the large print. */
  title: string;
  detail: string;
  cue: string;
  caution: string | null;
  /** The steps of the colour strip that are right, where a colour tells. */
  colours?: readonly [number, number];
}

const HOT = "Hot sheet and shelf: dry oven gloves, children stand back.";

/** A job in a baker's words. */
export function sayJob(job: Activity, session: BakingSession): Said {
  const tray = session.trays.find((t) => t.name === job.tray);
  const second =
    job.key.endsWith("2") && (job.kind === "load" || job.kind === "out" || job.kind === "turn");
  const minutes = tray?.bakes[second ? 1 : 0] ?? 0;
  const dough = session.doughs.find((d) => d.letter === job.dough) ?? session.doughs[0];
  const kind = dough?.kind ?? "drop";
  const several = session.doughs.length > 1;
  const piece = grams(dough?.grams ?? 0);
  const pieces = `${tray?.pieces ?? 0} ${kind === "twice_baked" ? "logs" : "pieces"}`;
  const shelf = session.activities.find((a) => a.key === job.key.replace(job.kind, "bake"))?.shelf;
  const name = `tray ${job.tray}`;
  const sheet = job.sheet ? session.sheet_names[job.sheet - 1] : undefined;
  const takeOut = job.label.replace(" it ", several ? ` dough ${job.dough} ` : " the dough ");
  const on = sheet ? ` on ${sheet}` : "";
  switch (job.kind) {
    case "heat":
      return sayHeat(job, session);
    case "mix":
      return {
        short: several ? `mix dough ${job.dough}` : "mix the dough",
        title: job.label && job.label !== "Mix the dough" ? job.label : mixTitle(several, job),
        detail: `${dough?.name ?? ""}, about ${length((job.end_at - job.start_at) / 60_000)}`,
        cue: "Stop as soon as the flour is gone, or it turns tough.",
        caution: "Raw flour and egg: do not taste. Mixer off before a hand goes in.",
      };
    case "take":
      return {
        short: lower(takeOut),
        title: takeOut,
        detail: dough?.name ?? "",
        cue: job.label.startsWith("Move")
          ? "Wrapped, on a plate: it thaws there while other things go on."
          : "Wrapped until it is worked, so that no water settles on it.",
        caution: "With egg or dairy: no longer than two hours in the warm in all.",
      };
    case "part":
      return {
        short: `make the ${job.label}`,
        title: `Make the ${job.label}`,
        detail: `for ${dough?.name ?? ""}, about ${length((job.end_at - job.start_at) / 60_000)}`,
        cue: "Keep it covered until it is wanted.",
        caution: null,
      };
    case "freeze":
      return {
        short: `wrap the rest of ${job.dough}`,
        title: `Wrap the rest of ${several ? `dough ${job.dough}` : "the dough"}`,
        detail: `${dough?.name ?? ""}: ${dough?.kept ?? 0} pieces for another day`,
        cue: "Airtight, with the day on it.",
        caution: null,
      };
    case "shape":
      return {
        short: `shape ${name}`,
        title: kind === "pan" ? `Re-cut ${name}` : `Shape ${name}`,
        detail: pieces,
        cue: AFTER[kind] ?? "At once, while they are soft.",
        caution: "Hot wafers and pans burn: a cloth, and children stand back.",
      };
    case "finish":
      return {
        short: `finish ${name}`,
        title: `Finish ${name}`,
        detail: `${pieces}, cold all through`,
        cue: "Icing runs off what is warm.",
        caution: null,
      };
    case "portion":
      if (dough?.laid) {
        return {
          short: `lay out ${name}`,
          title: `Lay out ${name}`,
          detail: `${pieces}${on}, as they were portioned`,
          cue: "As cold as they are: they are foreseen so.",
          caution: null,
        };
      }
      return {
        short: `portion ${name}`,
        title: `Portion ${name}`,
        detail:
          kind === "pan"
            ? `${piece} g in the pan, scored in ${pieces}`
            : `${pieces}${tray?.size ? `, the ${tray.size} ones` : ` of ${piece} g`}${on}${tray?.scraps ? ", from the scraps" : ""}`,
        cue: "All the same size bake the same.",
        caution: null,
      };
    case "load":
      return {
        short: `${name} into the oven`,
        title: `${cap(name)} into the oven`,
        detail: `shelf ${shelf ?? 1}, ${minutes} min, dial at ${job.label || dough?.oven_c} °C`,
        cue: second
          ? "Slices flat on the sheet, cut side up."
          : "Press done when the door is shut: the minutes count from then.",
        caution: HOT,
      };
    case "turn":
      return {
        short: `turn ${name}`,
        title: job.to_shelf ? `Swap ${name} with ${job.label}` : `Turn ${name}`,
        detail: second
          ? "turn each slice over"
          : job.to_shelf
            ? `to shelf ${job.to_shelf}, front to back`
            : turnWords(session.hot_sides[(job.oven ?? 1) - 1]),
        cue: "Be quick: an open door costs heat.",
        caution: HOT,
      };
    case "out":
      return {
        short: `take ${name} out`,
        title: `Take ${name} out`,
        detail: `${pieces}, ${minutes} min in all`,
        cue: AFTER[kind] ?? doneCue(dough, second),
        caution: HOT,
        ...(dough && { colours: [dough.cues.colour_from, dough.cues.colour_to] as const }),
      };
    case "slice":
      return {
        short: `slice ${name}`,
        title: `Slice ${name}`,
        detail: `${pieces}, slices of ${dough?.slice_mm ?? 13} mm, laid flat`,
        cue: "Serrated knife, long strokes; press a crumbling end together.",
        caution: "The logs are still hot inside, the knife is sharp.",
      };
    default:
      return {
        short: `${name} to the rack`,
        title: `${cap(name)} to the rack`,
        detail: `${pieces}; then cool, wipe and line the sheet`,
        cue: "They have set when one lifts without bending.",
        caution: null,
      };
  }
}

/** Turning the oven on, or its dial to another heat: whoever does it need not wait there. */
function sayHeat(job: Activity, session: BakingSession): Said {
  const heats = session.activities.filter((a) => a.kind === "heat" && a.oven === job.oven);
  const before = heats[heats.findIndex((a) => a.key === job.key) - 1];
  const oven = session.ovens.length > 1 ? `oven ${job.oven ?? 1}` : "the oven";
  const cold = before === undefined || before.label === job.label;
  const minutes = length((job.end_at - job.start_at) / 60_000);
  return {
    short: cold ? `${oven} on, ${job.label} °C` : `${oven} to ${job.label} °C`,
    title: cold ? `Turn ${oven} on` : `Turn ${oven} to ${job.label} °C`,
    detail: `dial at ${job.label} °C; ready in ${minutes}`,
    cue: cold
      ? "Shelves where they are wanted, the thermometer in the middle."
      : "Door shut: the next tray waits until it is there.",
    caution: cold ? "Look inside first: nothing is kept in it." : null,
  };
}

/** What cannot wait once a tray of that kind is out. */
const AFTER: Partial<Record<SessionDough["kind"], string>> = {
  pan: "Re-cut along the scores within two minutes; later it shatters.",
  wafer: "Shape them at once, the first out first; half a minute in the oven softens them again.",
};

/** By what one sees that it is done; slices that dry again are told by their touch. */
function doneCue(dough: SessionDough | undefined, second: boolean): string {
  if (second) return "Dry to the touch on both sides; they harden as they cool.";
  if (!dough) return "";
  const { edges, top, underside, touch, smell } = dough.cues;
  return `Edges ${edges}; top ${top}; underneath ${underside}; ${touch}; smells ${smell}. It goes on cooking on the sheet.`;
}

const mixTitle = (several: boolean, job: Activity): string =>
  several ? `Mix dough ${job.dough}` : "Mix the dough";

/** Which way to turn a tray: what browns first changes sides. */
const turnWords = (side: BakingSession["hot_sides"][number] | undefined): string =>
  side === undefined || side === "even" ? "front to back" : `front to back: the ${side} is hotter`;

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

import type { Activity, BakingSession } from "../../api/client";
import { type BakeEvent, KeyCap } from "./Happenings";

type Firm = NonNullable<BakingSession["doughs"][number]["felt"]>;

interface FirmnessProps {
  session: BakingSession;
  job: Activity;
  busy: boolean;
  onEvent: (event: BakeEvent) => void;
}

const COLDER_MIN = 15;
const WARMER_MIN = 10;

const WORDS: readonly (readonly [Firm, string, string])[] = [
  ["soft", `Too soft: chill ${COLDER_MIN} min`, "6"],
  ["right", "Just right", "7"],
  ["hard", `Too hard: wait ${WARMER_MIN} min`, "8"],
];
const WAITS: Record<Firm, number | null> = { soft: COLDER_MIN, right: null, hard: WARMER_MIN };

/** The dough of that job, where it was chilled or tempered and can be felt before portioning. */
export function feltDough(session: BakingSession, job: Activity) {
  if (job.kind !== "portion") return undefined;
  const cold = session.activities.some(
    (a) => (a.kind === "chill" || a.kind === "temper") && a.dough === job.dough,
  );
  const dough = session.doughs.find((d) => d.letter === job.dough);
  return cold && !dough?.laid ? dough : undefined;
}

/** That a dough feels so; too soft or too hard it waits, and the rest is planned around it. */
export const felt = (session: BakingSession, job: Activity, firm: Firm): BakeEvent | null =>
  feltDough(session, job)
    ? { kind: "felt", activity: job.key, what: firm, minutes: WAITS[firm] }
    : null;

/** How firm the dough is that is to be portioned: noted, learnt from, and waited for. */
export function Firmness({ session, job, busy, onEvent }: FirmnessProps) {
  const dough = feltDough(session, job);
  if (!dough) return null;
  return (
    <section
      aria-label="How the dough feels"
      className="flex flex-wrap items-center gap-x-2.5 gap-y-2"
    >
      <span className="text-soft">The dough feels</span>
      {WORDS.map(([firm, words, key]) => (
        <button
          key={firm}
          type="button"
          className={`press min-h-12 ${dough.felt === firm ? "press-main" : ""}`}
          aria-pressed={dough.felt === firm}
          disabled={busy}
          onClick={() => {
            const event = felt(session, job, firm);
            if (event) onEvent(event);
          }}
        >
          {words} <KeyCap>{key}</KeyCap>
        </button>
      ))}
    </section>
  );
}

import type { Activity, BakingSession } from "../../api/client";
import { type BakeEvent, type Firm, felt, WAITS_MIN } from "../../logic/events";
import { KeyCap } from "./Happenings";

interface FirmnessProps {
  session: BakingSession;
  job: Activity;
  busy: boolean;
  onEvent: (event: BakeEvent) => void;
}

const WORDS: readonly (readonly [Firm, string, string])[] = [
  ["soft", `Too soft: chill ${WAITS_MIN.soft} min`, "6"],
  ["right", "Just right", "7"],
  ["hard", `Too hard: wait ${WAITS_MIN.hard} min`, "8"],
];

/** How firm the dough is that is to be portioned: noted, learnt from, and waited for. */
export function Firmness({ session, job, busy, onEvent }: FirmnessProps) {
  if (!job.may_be_felt) return null;
  const dough = session.doughs.find((d) => d.letter === job.dough);
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
          className={`press min-h-12 ${dough?.felt === firm ? "press-main" : ""}`}
          aria-pressed={dough?.felt === firm}
          disabled={busy}
          onClick={() => {
            const event = felt(job, firm);
            if (event) onEvent(event);
          }}
        >
          {words} <KeyCap>{key}</KeyCap>
        </button>
      ))}
    </section>
  );
}

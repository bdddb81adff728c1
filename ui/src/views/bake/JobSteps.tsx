import { useState } from "react";
import type { Activity, BakingSession } from "../../api/client";
import { countdown, length } from "../../logic/format";
import { type Said, wordsOf } from "../../logic/jobs";
import { NO_TICKS, readTicks, stepKey, type Ticks, ticked, timed } from "../../logic/ticks";

const MINUTE = 60_000;
const keptAt = (session: BakingSession) => `finebatch.steps.${session.id}`;

interface JobStepsProps {
  session: BakingSession;
  job: Activity;
  now: number;
}

/** What is done in this job, step by step, in the card's own words: ticked, with timers of its own. */
export function JobSteps({ session, job, now }: JobStepsProps) {
  const [ticks, setTicks] = useTicks(session);
  const { steps } = wordsOf(job);
  if (steps.length === 0) {
    return <Timers session={session} job={job} ticks={ticks} now={now} change={setTicks} />;
  }
  return (
    <section aria-label="Steps of this job">
      <h2 className="heading">Step by step</h2>
      <ol className="border-t-2 border-ink">
        {steps.map((step, n) => (
          <StepLine
            key={stepKey(job.key, n)}
            step={step}
            name={stepKey(job.key, n)}
            ticks={ticks}
            now={now}
            change={setTicks}
          />
        ))}
      </ol>
      <Timers session={session} job={job} ticks={ticks} now={now} change={setTicks} />
    </section>
  );
}

interface Changing {
  ticks: Ticks;
  now: number;
  change: (ticks: Ticks) => void;
}

/** One step: its tick, its words, and a timer where it has minutes. */
function StepLine({
  step,
  name,
  ticks,
  now,
  change,
}: Changing & { step: Said["steps"][number]; name: string }) {
  const done = name in ticks.done;
  const minutes = step.wait_min || step.hands_min;
  const ends = ticks.timers[name];
  return (
    <li className="flex items-start gap-3 border-b border-line py-2 text-2xl max-sm:text-xl">
      <input
        type="checkbox"
        className="mt-1 size-8 flex-none accent-[var(--color-ink)]"
        aria-label={step.text}
        checked={done}
        onChange={() => change(ticked(ticks, name))}
      />
      <span className={`flex-1 first-letter:uppercase ${done ? "text-soft line-through" : ""}`}>
        {step.text}
        {step.origin === "card" ? null : (
          <span className="text-lg text-soft"> {OWN[step.origin]}</span>
        )}
        {step.amounts && <strong className="block text-lg">{step.amounts}</strong>}
        {step.cue && <span className="block text-lg text-soft">{step.cue}</span>}
      </span>
      {minutes > 0 && !done && (
        <button
          type="button"
          className="press min-h-11 flex-none text-lg"
          aria-label={
            ends === undefined
              ? `Timer, ${length(minutes)}: ${step.text}`
              : `Stop the timer: ${step.text}`
          }
          onClick={() => change(timed(ticks, name, now + minutes * MINUTE))}
        >
          {ends === undefined ? `Timer ${length(minutes)}` : left(ends, now)}
        </button>
      )}
    </li>
  );
}

const OWN = { usual: "(usual)", habit: "(habit)" } as const;

const left = (ends: number, now: number) => (ends > now ? countdown(ends - now) : "time is up");

/** The timers that run in other jobs: they are not lost with the job that set them. */
function Timers({ session, job, ticks, now, change }: JobStepsProps & Changing) {
  const others = session.activities.flatMap((other) =>
    other.key === job.key
      ? []
      : wordsOf(other).steps.flatMap((step, n) => {
          const ends = ticks.timers[stepKey(other.key, n)];
          return ends === undefined ? [] : [{ name: stepKey(other.key, n), step, ends }];
        }),
  );
  if (others.length === 0) return null;
  return (
    <ul aria-label="Timers that run" className="flex flex-wrap gap-2">
      {others.map(({ name, step, ends }) => (
        <li key={name}>
          <button
            type="button"
            className="press min-h-11 text-lg"
            aria-label={`Stop the timer: ${step.text}`}
            onClick={() => change(timed(ticks, name, 0))}
          >
            <strong>{left(ends, now)}</strong> {step.text}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Ticks and timers of a session, kept by this screen through a reload. */
function useTicks(session: BakingSession): [Ticks, (ticks: Ticks) => void] {
  const [ticks, setTicks] = useState(() => readTicks(localStorage.getItem(keptAt(session))));
  const keep = (next: Ticks) => {
    setTicks(next);
    if (next === NO_TICKS) localStorage.removeItem(keptAt(session));
    else localStorage.setItem(keptAt(session), JSON.stringify(next));
  };
  return [ticks, keep];
}

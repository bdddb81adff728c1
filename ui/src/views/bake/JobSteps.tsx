import { useState } from "react";
import type { Activity, BakingSession } from "../../api/client";
import type { BakeEvent } from "../../logic/events";
import { countdown, length } from "../../logic/format";
import { type Said, wordsOf } from "../../logic/jobs";
import { readTimers, stepKey, stopped, type Timers, timed, timersKeptAt } from "../../logic/timers";

const MINUTE = 60_000;
const keptAt = (session: BakingSession) => timersKeptAt(session.id);

interface JobStepsProps {
  session: BakingSession;
  job: Activity;
  now: number;
  onEvent: (what: BakeEvent, onError: () => void) => void;
}

/** What is done in this job, step by step, in the card's own words: ticked, with timers of its own. */
export function JobSteps({ session, job, now, onEvent }: JobStepsProps) {
  const [timers, setTimers] = useTimers(session);
  const [isDone, flip] = useTicks(session, job, onEvent);
  const { steps } = wordsOf(job);
  if (steps.length === 0) {
    return <Running session={session} job={job} timers={timers} now={now} change={setTimers} />;
  }
  return (
    <section aria-label="Steps of this job">
      <h2 className="heading">Step by step</h2>
      <ol className="border-t-2 border-ink">
        {steps.map((step, n) => (
          <StepLine
            key={stepKey(job.key, n)}
            step={step}
            done={isDone(n)}
            ends={timers[stepKey(job.key, n)]}
            now={now}
            onTick={() => {
              setTimers(stopped(timers, stepKey(job.key, n)));
              flip(n);
            }}
            onTimer={(endsAt) => setTimers(timed(timers, stepKey(job.key, n), endsAt))}
          />
        ))}
      </ol>
      <Running session={session} job={job} timers={timers} now={now} change={setTimers} />
    </section>
  );
}

interface StepLineProps {
  step: Said["steps"][number];
  done: boolean;
  ends: number | undefined;
  now: number;
  onTick: () => void;
  onTimer: (endsAt: number) => void;
}

/** One step: its tick, its words, and a timer where it has minutes. */
function StepLine({ step, done, ends, now, onTick, onTimer }: StepLineProps) {
  const minutes = step.wait_min || step.hands_min;
  return (
    <li className="flex items-start gap-3 border-b border-line py-2 text-2xl max-sm:text-xl">
      <input
        type="checkbox"
        className="size-11 flex-none accent-[var(--color-ink)]"
        aria-label={step.text}
        checked={done}
        onChange={onTick}
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
          onClick={() => onTimer(now + minutes * MINUTE)}
        >
          {ends === undefined ? `Timer ${length(minutes)}` : left(ends, now)}
        </button>
      )}
    </li>
  );
}

const OWN = { usual: "(usual)", habit: "(habit)" } as const;

const left = (ends: number, now: number) => (ends > now ? countdown(ends - now) : "time is up");

interface RunningProps {
  session: BakingSession;
  job: Activity;
  timers: Timers;
  now: number;
  change: (timers: Timers) => void;
}

/** The timers that run in other jobs: they are not lost with the job that set them. */
function Running({ session, job, timers, now, change }: RunningProps) {
  const others = session.activities.flatMap((other) =>
    other.key === job.key
      ? []
      : wordsOf(other).steps.flatMap((step, n) => {
          const ends = timers[stepKey(other.key, n)];
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
            onClick={() => change(stopped(timers, name))}
          >
            <strong>{left(ends, now)}</strong> {step.text}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Which steps of a job are ticked, on every screen; shown at once where they are pressed. */
function useTicks(
  session: BakingSession,
  job: Activity,
  onEvent: JobStepsProps["onEvent"],
): [(place: number) => boolean, (place: number) => void] {
  const [pressed, setPressed] = useState<{ at: number; keys: string[] }>({ at: -1, keys: [] });
  const flips = pressed.at === session.happened ? pressed.keys : [];
  const isDone = (place: number) =>
    job.ticked.includes(place) !== flips.includes(stepKey(job.key, place));
  const flip = (place: number) => {
    const key = stepKey(job.key, place);
    const keys = flips.includes(key) ? flips.filter((other) => other !== key) : [...flips, key];
    setPressed({ at: session.happened, keys });
    onEvent({ kind: "ticked", activity: job.key, what: String(place) }, () =>
      setPressed({ at: -1, keys: [] }),
    );
  };
  return [isDone, flip];
}

/** Timers of a session, kept by this screen through a reload. */
function useTimers(session: BakingSession): [Timers, (timers: Timers) => void] {
  const [timers, setTimers] = useState(() => readTimers(localStorage.getItem(keptAt(session))));
  const keep = (next: Timers) => {
    setTimers(next);
    if (Object.keys(next).length === 0) localStorage.removeItem(keptAt(session));
    else localStorage.setItem(keptAt(session), JSON.stringify({ timers: next }));
  };
  return [timers, keep];
}

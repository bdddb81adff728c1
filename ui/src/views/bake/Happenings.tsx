import { useState } from "react";
import type { Activity, BakingSession } from "../../api/client";
import { type BakeEvent, leaveOut, notYet, OVEN_SLOW } from "../../logic/events";
import { MomentField } from "../../parts/MomentField";

interface HappeningsProps {
  session: BakingSession;
  job: Activity;
  now: number;
  busy: boolean;
  onEvent: (event: BakeEvent) => void;
}

const MINUTE = 60_000;

/** A key that does the same as the press it stands on. */
export function KeyCap({ children }: { children: string }) {
  return (
    <span
      aria-hidden="true"
      className="border border-current px-1.5 font-sans text-[0.9375rem] leading-tight font-normal max-sm:hidden pointer-coarse:hidden"
    >
      {children}
    </span>
  );
}

/** What comes up in a kitchen beside "done": each is one press, and the rest is planned again. */
export function Happenings({ session, job, now, busy, onEvent }: HappeningsProps) {
  const later = notYet(job, session);
  const left = leaveOut(job);
  return (
    <section aria-label="Something else" className="flex flex-wrap items-end gap-x-5 gap-y-3">
      {later && (
        <button
          type="button"
          className="press min-h-12 text-lg"
          disabled={busy}
          onClick={() => onEvent(later)}
        >
          Not yet: 2 more minutes <KeyCap>2</KeyCap>
        </button>
      )}
      {left && (
        <button
          type="button"
          className="press min-h-12 text-lg"
          disabled={busy}
          onClick={() => onEvent(left)}
        >
          Leave this out <KeyCap>3</KeyCap>
        </button>
      )}
      <button
        type="button"
        className="press min-h-12"
        disabled={busy}
        onClick={() => onEvent(OVEN_SLOW)}
      >
        Oven slow: 5 min more <KeyCap>5</KeyCap>
      </button>
      <Back now={now} busy={busy} onEvent={onEvent} />
      <label className="flex flex-col text-[0.9375rem] text-soft">
        A tray was dropped
        <select
          className="min-h-12 text-ink"
          value=""
          disabled={busy}
          onChange={(event) => onEvent({ kind: "dropped", activity: event.target.value })}
        >
          <option value="" disabled>
            none
          </option>
          {session.trays.map((tray) => (
            <option key={tray.name} value={tray.name}>
              {tray.name}
            </option>
          ))}
        </select>
      </label>
    </section>
  );
}

interface BackProps {
  now: number;
  busy: boolean;
  onEvent: (event: BakeEvent) => void;
}

/** Away for a while, and back by the clock. */
function Back({ now, busy, onEvent }: BackProps) {
  const [at, setAt] = useState<number | null>(null);
  const wanted = at ?? now + 15 * MINUTE;
  // A time before now is tomorrow's.
  const until = wanted > now ? wanted : wanted + 24 * 60 * MINUTE;
  const minutes = Math.round((until - now) / MINUTE);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onEvent({ kind: "away", activity: "", minutes });
        setAt(null);
      }}
    >
      <MomentField label="Back at" of="time" value={wanted} now={now} onChange={setAt} />
      <button
        type="submit"
        className="press min-h-12"
        disabled={busy || !(minutes >= 1 && minutes <= 720)}
      >
        I am away
      </button>
    </form>
  );
}

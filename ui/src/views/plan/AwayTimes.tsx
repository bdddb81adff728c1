import { useState } from "react";
import { fromField, toField, when } from "../../logic/format";
import type { Wish } from "../../logic/wish";
import { Field } from "../../parts/Field";

const HOUR = 60 * 60_000;
type Away = Wish["away"][number];

interface AwayTimesProps {
  away: Away[];
  now: number;
  fault: string | undefined;
  onAway: (away: Away[]) => void;
}

/** Times when the baker is away or asleep: nothing is for the hands then. */
export function AwayTimes({ away, now, fault, onAway }: AwayTimesProps) {
  const [from, setFrom] = useState(() => toField(now + HOUR));
  const [to, setTo] = useState(() => toField(now + 2 * HOUR));
  const ready = Number.isFinite(fromField(from)) && Number.isFinite(fromField(to));
  return (
    <details className="text-[0.9375rem]" open={away.length > 0}>
      <summary className="cursor-pointer">
        <strong>Away or asleep</strong>{" "}
        {away.length === 0
          ? "never, in this session"
          : away.length === 1
            ? "once"
            : `${away.length} times`}
      </summary>
      <ul>
        {away.map((span, n) => (
          <li key={`${span.from_at}-${span.to_at}`} className="flex items-center gap-3">
            {when(span.from_at, now)} to {when(span.to_at, now)}
            <button
              type="button"
              className="icon-press"
              aria-label={`Be there from ${when(span.from_at, now)}`}
              onClick={() => onAway(away.filter((_, k) => k !== n))}
            >
              ✕
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <Field label="Away from" fault={fault}>
          {(props) => (
            <input
              {...props}
              type="datetime-local"
              value={from}
              onChange={(event) => setFrom(event.target.value)}
            />
          )}
        </Field>
        <Field label="until">
          {(props) => (
            <input
              {...props}
              type="datetime-local"
              value={to}
              onChange={(event) => setTo(event.target.value)}
            />
          )}
        </Field>
        <button
          type="button"
          className="press min-h-9"
          disabled={!ready}
          onClick={() => onAway([...away, { from_at: fromField(from), to_at: fromField(to) }])}
        >
          Add this time
        </button>
      </div>
    </details>
  );
}

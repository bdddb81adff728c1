import { useState } from "react";
import { when } from "../../logic/format";
import { stepped } from "../../logic/moments";
import type { Wish } from "../../logic/wish";
import { MomentField } from "../../parts/MomentField";

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
  const [from, setFrom] = useState<number | null>(() => stepped(now + HOUR, 15));
  const [to, setTo] = useState<number | null>(() => stepped(now + 2 * HOUR, 15));
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
        <MomentField
          label="Away from"
          of="moment"
          value={from}
          now={now}
          fault={fault}
          onChange={setFrom}
        />
        <MomentField label="until" of="moment" value={to} now={now} onChange={setTo} />
        <button
          type="button"
          className="press min-h-9"
          disabled={from === null || to === null}
          onClick={() =>
            from !== null && to !== null && onAway([...away, { from_at: from, to_at: to }])
          }
        >
          Add this time
        </button>
      </div>
    </details>
  );
}

import { useState } from "react";
import type { Study } from "../../api/client";
import type { Card, Change } from "../../logic/draft";

type Check = Study["checks"][number];

interface ChecksProps {
  checks: Check[];
  card: Card;
  change: (change: Change) => void;
  onOven: (oven_c: number) => Promise<void>;
  onShow: (where: string) => void;
}

/** What does not agree on the card, each with its evidence and one press to settle it. */
export function Checks({ checks, card, change, onOven, onShow }: ChecksProps) {
  const settle = (key: string) =>
    change({ do: "write", part: { settled: [...card.settled, key] }, touch: "" });

  const mend = ({ mend: m }: Check) => {
    if (!m) return;
    if (m.oven_c !== null) {
      void onOven(m.oven_c);
      return;
    }
    const line = m.line === null ? undefined : card.lines[m.line];
    if (line && m.remove) {
      change({ do: "remove", id: line.id });
    } else if (line && m.amount !== null) {
      const part = { amount: m.amount, unit: m.unit ?? line.unit, chosen: "" };
      change({ do: "line", id: line.id, part });
    } else if (m.stated_oven !== null) {
      change({ do: "write", part: { stated_oven: m.stated_oven }, touch: "" });
    } else if (m.stated_pieces !== null) {
      change({ do: "write", part: { stated_pieces: m.stated_pieces }, touch: "" });
    } else if (m.step !== null && m.step_text !== null) {
      const text = m.step_text;
      const steps = card.steps.map((s, n) => (n === m.step ? { ...s, text } : s));
      change({ do: "write", part: { steps }, touch: "" });
    }
  };

  return (
    <section aria-label="Look at this">
      <h2 className="heading">
        Look at this
        <span className="font-normal text-soft">{checks.length || "nothing"}</span>
      </h2>
      {checks.length === 0 && (
        <p className="mt-2 text-[0.9375rem] text-soft">
          Nothing on the card contradicts itself.
          {card.settled.length > 0 && (
            <>
              {" "}
              <button
                type="button"
                className="underline hover:text-ink"
                onClick={() => change({ do: "write", part: { settled: [] }, touch: "" })}
              >
                Show the {card.settled.length} dismissed again
              </button>
            </>
          )}
        </p>
      )}
      <ul>
        {checks.map((check) => (
          <li key={check.key} className="border-b border-line py-2 text-[0.9375rem]">
            <strong className="text-caution">{check.title}</strong>
            <p>{check.evidence}</p>
            <p>
              <span className="text-soft">Likely:</span> {check.likely}
            </p>
            {check.mend?.after && (
              <p data-figure="mend">
                <span className="text-soft">Now</span> {check.mend.before},{" "}
                <span className="text-soft">then</span> <strong>{check.mend.after}</strong>
              </p>
            )}
            <div className="mt-1.5 flex flex-wrap gap-2">
              {check.mend && <MendPress check={check} onMend={() => mend(check)} />}
              <button
                type="button"
                className="press min-h-9 px-2.5 text-[0.9375rem]"
                onClick={() => onShow(check.where)}
                aria-label={`Correct it: ${check.title}`}
              >
                Correct it
              </button>
              <button
                type="button"
                className="press min-h-9 px-2.5 text-[0.9375rem]"
                onClick={() => settle(check.key)}
                aria-label={`It is right so: ${check.title}`}
              >
                It is right so
              </button>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The press that mends; where it changes an amount by a power of ten, it asks once more. */
function MendPress({ check, onMend }: { check: Check; onMend: () => void }) {
  const [sure, setSure] = useState(!check.mend?.tenfold);
  const label = check.mend?.label ?? "";
  return (
    <button
      type="button"
      className="press min-h-9 px-2.5 text-[0.9375rem]"
      onClick={() => (sure ? onMend() : setSure(true))}
    >
      {sure && check.mend?.tenfold ? `Yes, ${check.mend.after}` : label}
    </button>
  );
}

import type { Schemas, TraySetting } from "../api/client";
import { asSaid, cardFacts, standing } from "../logic/fromCard";

interface FromCardProps {
  begun: Schemas["Started"];
  /** The tray as it is set; none while the card is only looked at. */
  tray?: TraySetting;
  onTray?: (tray: TraySetting) => void;
  /** Write the oven's scale out, where another was guessed. */
  onOven?: (written: string) => void;
  /** What is asked beside the facts, family and mixing. */
  children?: React.ReactNode;
}

/** All that the card says beside its lines, and what of it the tray has otherwise. */
export function FromCard({ begun, tray, onTray, onOven, children }: FromCardProps) {
  const facts = cardFacts(begun.says);
  if (facts.length === 0 && !children) return null;
  return (
    <section
      aria-label="From the card"
      className="flex flex-wrap items-start gap-x-5 gap-y-2 border-l-4 border-enamel bg-wash px-3 py-2"
    >
      <h2 className="self-center font-bold">From the card</h2>
      {children}
      <dl className="contents">
        {facts.map((fact) => {
          const other = tray && standing(fact, begun, tray) === "otherwise";
          return (
            <div key={fact.key} data-fact={fact.key}>
              <dt className="text-[0.9375rem] text-soft">{fact.label}</dt>
              <dd className="leading-tight font-semibold">
                {fact.said}
                {fact.guess && (
                  <span className="block text-[0.9375rem] font-normal text-caution">
                    {fact.guess}
                  </span>
                )}
                {fact.instead && onOven && (
                  <button
                    type="button"
                    className="block min-h-6 text-[0.9375rem] font-normal text-caution underline"
                    onClick={() => fact.instead && onOven(fact.instead)}
                  >
                    it is {fact.instead}
                  </button>
                )}
                {other && onTray && (
                  <button
                    type="button"
                    className="block min-h-6 text-[0.9375rem] font-normal text-caution underline"
                    onClick={() => onTray(asSaid(fact, begun, tray))}
                  >
                    the tray has it otherwise: take this
                  </button>
                )}
              </dd>
            </div>
          );
        })}
      </dl>
    </section>
  );
}

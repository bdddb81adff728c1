import type { Study, Words } from "../../api/client";
import type { Card, Change, Step } from "../../logic/draft";
import { degrees, dial, exampleOven, fine, length } from "../../logic/format";
import { RowButtons } from "../../parts/RowButtons";

interface MethodProps {
  card: Card;
  words: Words;
  study: Study | undefined;
  change: (change: Change) => void;
}

const NEW_STEP: Step = { text: "", hands_min: 2, wait_min: 0, cue: "", caution: "", each_s: 0 };

/** The steps from cold ingredients to a mixed dough, with hands, waiting, and what to look for. */
export function Method({ card, words, study, change }: MethodProps) {
  const own = card.steps.length > 0;
  const steps: Step[] = own ? card.steps : ((study?.steps ?? []) as Step[]);
  const mixing = words.mixing.find((m) => m.key === card.mixing);
  const write = (next: Step[], touch = "") => change({ do: "write", part: { steps: next }, touch });
  const move = (n: number, by: number) => {
    const next = [...steps];
    const [step] = next.splice(n, 1);
    if (step) next.splice(n + by, 0, step);
    write(next);
  };
  const spread = study?.piece?.width.movers.find((m) => m.key === "liquid_fat");
  return (
    <div className="flex flex-col gap-3">
      {mixing && (
        <p>
          <strong>{mixing.label}.</strong> {mixing.effect} It leaves the dough at about{" "}
          {degrees(mixing.dough_temp_c)}
          {spread && Math.abs(spread.mm) >= 0.1
            ? `; liquid fat makes this piece ${fine(Math.abs(spread.mm), 1)} wider.`
            : "."}
        </p>
      )}
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span>
          {own
            ? "This dough’s own steps."
            : "The usual steps; change one, and they are this dough’s own."}{" "}
          The plan counts <strong data-figure="method">{length(study?.method_min ?? 0)}</strong> for
          them.
        </span>
        {own && (
          <button type="button" className="press min-h-9" onClick={() => write([])}>
            Back to the usual steps
          </button>
        )}
      </p>
      <ol aria-label="Steps" className="border-t-2 border-ink">
        {steps.map((step, n) => (
          <StepRow
            // biome-ignore lint/suspicious/noArrayIndexKey: a step has no name but its place
            key={n}
            step={step}
            place={n}
            last={n === steps.length - 1}
            onWrite={(part) =>
              write(
                steps.map((s, i) => (i === n ? { ...s, ...part } : s)),
                `step ${n} ${Object.keys(part)}`,
              )
            }
            onMove={(by) => move(n, by)}
            onRemove={() => write(steps.filter((_, i) => i !== n))}
          />
        ))}
      </ol>
      <button
        type="button"
        className="press self-start"
        onClick={() => write([...steps, NEW_STEP])}
      >
        Add a step
      </button>
      <label className="flex flex-col text-[0.9375rem] text-soft">
        What the card says of the oven
        <input
          aria-label="What the card says of the oven"
          className="text-lg text-ink"
          value={card.stated_oven}
          maxLength={500}
          placeholder={`${dial(exampleOven())}, 10–12 minutes`}
          onChange={(event) => change({ do: "write", part: { stated_oven: event.target.value } })}
        />
      </label>
      <label className="flex w-40 flex-col text-[0.9375rem] text-soft">
        Pieces it says it makes
        <input
          className="text-lg text-ink"
          inputMode="numeric"
          value={card.stated_pieces ?? ""}
          maxLength={5}
          onChange={(event) => {
            const count = Number.parseInt(event.target.value, 10);
            change({ do: "write", part: { stated_pieces: count > 0 ? count : null } });
          }}
        />
      </label>
      <label className="flex flex-col text-[0.9375rem] text-soft">
        Notes
        <textarea
          className="text-lg text-ink"
          rows={3}
          value={card.note}
          maxLength={5000}
          onChange={(event) => change({ do: "write", part: { note: event.target.value } })}
        />
      </label>
    </div>
  );
}

interface StepRowProps {
  step: Step;
  place: number;
  last: boolean;
  onWrite: (part: Partial<Step>) => void;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
}

function StepRow({ step, place, last, onWrite, onMove, onRemove }: StepRowProps) {
  const name = `step ${place + 1}`;
  return (
    <li className="grid grid-cols-[2rem_minmax(0,1fr)_4.5rem_4.5rem_6rem] items-start gap-x-2 border-b border-line py-2 max-sm:grid-cols-[2rem_minmax(0,1fr)]">
      <span className="pt-1 text-xl font-bold">{place + 1}</span>
      <div className="flex flex-col gap-1">
        <textarea
          aria-label={`Step ${place + 1}`}
          className="field-sizing-content w-full border-transparent px-1 text-lg hover:border-line"
          value={step.text}
          rows={1}
          maxLength={1000}
          onChange={(event) => onWrite({ text: event.target.value })}
        />
        <label className="flex items-baseline gap-1 text-[0.9375rem]">
          <span className="text-soft">until</span>
          <input
            aria-label={`Cue of ${name}`}
            className="min-h-8 w-full border-transparent px-1 hover:border-line"
            value={step.cue}
            maxLength={300}
            onChange={(event) => onWrite({ cue: event.target.value })}
          />
        </label>
        <label className="flex items-baseline gap-1 text-[0.9375rem]">
          <span className={step.caution ? "font-semibold text-caution" : "text-soft"}>caution</span>
          <input
            aria-label={`Caution of ${name}`}
            className="min-h-8 w-full border-transparent px-1 hover:border-line"
            value={step.caution}
            maxLength={300}
            onChange={(event) => onWrite({ caution: event.target.value })}
          />
        </label>
      </div>
      <Minutes
        label="hands, min"
        name={`Hands minutes of ${name}`}
        value={step.hands_min}
        most={240}
        onChange={(hands_min) => onWrite({ hands_min })}
      />
      <Minutes
        label="wait, min"
        name={`Waiting minutes of ${name}`}
        value={step.wait_min}
        most={2880}
        onChange={(wait_min) => onWrite({ wait_min })}
      />
      <RowButtons
        name={name}
        first={place === 0}
        last={last}
        onMove={onMove}
        onRemove={onRemove}
        className="pt-5 max-sm:col-start-2 max-sm:pt-0"
      />
    </li>
  );
}

interface MinutesProps {
  label: string;
  name: string;
  value: number;
  most: number;
  onChange: (minutes: number) => void;
}

function Minutes({ label, name, value, most, onChange }: MinutesProps) {
  const read = (text: string) => Math.min(Math.max(Number.parseInt(text, 10) || 0, 0), most);
  return (
    <label className="flex flex-col text-[0.9375rem] text-soft max-sm:col-start-2">
      {label}
      <input
        aria-label={name}
        className="text-right text-lg text-ink"
        inputMode="numeric"
        value={value}
        onChange={(event) => onChange(read(event.target.value))}
      />
    </label>
  );
}

import { useState } from "react";
import type { Study, Words } from "../../api/client";
import type { Card, Change, Step } from "../../logic/draft";
import { degrees, dial, exampleOven, fine, length } from "../../logic/format";
import {
  type Changed,
  isOwn,
  kindsByStage,
  STAGE,
  type Stage,
  type StepKind,
  stretches,
  type Told,
  withoutStep,
  withStep,
  withStepAfter,
  withStepMoved,
} from "../../logic/method";
import { NumberField } from "../../parts/NumberField";
import { RowButtons } from "../../parts/RowButtons";
import { TimeLine } from "./TimeLine";

interface MethodProps {
  card: Card;
  words: Words;
  study: Study | undefined;
  /** Whether the study is of the card as it is now. */
  fresh: boolean;
  change: (change: Change) => void;
}

/** The whole method as a line of time: what it is, how long the plan counts for it, whose it is. */
export function Method({ card, words, study, fresh, change }: MethodProps) {
  const { told, known, note } = useTold(card, study?.told ?? [], fresh);
  const mixing = words.mixing.find((m) => m.key === card.mixing);
  const write = ({ steps, told: after }: Changed, touch = "") => {
    note(steps, after);
    change({ do: "write", part: { steps }, touch });
  };
  const without = (kinds: StepKind[]) =>
    change({ do: "write", part: { without: kinds }, touch: "" });
  const spread = study?.piece?.width.movers.find((m) => m.key === "liquid_fat");
  const label = (kind: StepKind) => words.steps.find((one) => one.kind === kind)?.label ?? kind;
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
          {card.steps.length > 0
            ? "From this card; what it leaves out is as usual."
            : "The usual steps; change one, and they are this dough’s own."}{" "}
          The plan counts <strong data-figure="method">{length(study?.method_min ?? 0)}</strong> to
          a dough that can be portioned.
          {study?.bake_within != null &&
            ` It has to be in the oven ${length(study.bake_within)} after it is mixed, as ${
              study.bake_within_by_card ? "the card says" : "such a batter sinks"
            }: what takes longer is mixed in several bowls.`}
        </span>
        {card.steps.length > 0 && (
          <button
            type="button"
            className="press min-h-9"
            onClick={() => change({ do: "write", part: { steps: [] }, touch: "" })}
          >
            Back to the usual steps
          </button>
        )}
      </p>
      <TimeLine told={told} />
      <section aria-label="Steps" className="border-t-2 border-ink" inert={!known}>
        {stretches(told).map(({ stage, steps }) => (
          <section
            key={`${stage} ${steps[0]?.place}`}
            aria-label={STAGE[stage]}
            className="grid grid-cols-[6rem_minmax(0,1fr)] gap-x-3 border-b border-line py-1 max-md:grid-cols-1"
          >
            <h3 className="pt-2 font-bold">{STAGE[stage]}</h3>
            <ol>
              {steps.map(({ step, place }, n) => (
                <StepRow
                  key={place}
                  headed={n === 0}
                  step={step}
                  place={place}
                  own={isOwn(step, card)}
                  words={words}
                  onWrite={(part) =>
                    write(
                      withStep(card, told, place, part, words),
                      `step ${place} ${Object.keys(part)}`,
                    )
                  }
                  onMove={(by) => write(withStepMoved(card, told, place, by))}
                  onAdd={() => write(withStepAfter(card, told, place))}
                  onRemove={() =>
                    isOwn(step, card)
                      ? write(withoutStep(card, told, place))
                      : without([...card.without, step.kind])
                  }
                />
              ))}
            </ol>
          </section>
        ))}
      </section>
      {card.without.length > 0 && (
        <p className="flex flex-wrap items-center gap-2">
          Left out for this dough:
          {card.without.map((kind) => (
            <button
              key={kind}
              type="button"
              className="press min-h-9"
              onClick={() => without(card.without.filter((other) => other !== kind))}
            >
              {label(kind)}: take it in again
            </button>
          ))}
        </p>
      )}
      <CardFacts card={card} change={change} />
    </div>
  );
}

/** How the card's steps are told: as its study says, and until that has come as they were changed
 * here. A change goes by the places that are shown, so nothing is changed while neither is known. */
function useTold(card: Card, studied: Told[], fresh: boolean) {
  const [seen] = useState(() => new WeakMap<Step[], { told: Told[]; mixing: Card["mixing"] }>());
  const before = seen.get(card.steps);
  const changed = before?.mixing === card.mixing ? before.told : undefined;
  const told = fresh ? studied : (changed ?? studied);
  const note = (steps: Step[], after: Told[]) => {
    // What was told before is there again when the change is taken back.
    seen.set(card.steps, { told, mixing: card.mixing });
    seen.set(steps, { told: after, mixing: card.mixing });
  };
  return { told, known: fresh || changed !== undefined, note };
}

function CardFacts({ card, change }: Pick<MethodProps, "card" | "change">) {
  return (
    <>
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
      <NumberField
        label="How wide it says that one bakes"
        measure="length"
        className="w-24 text-lg"
        value={card.stated_width_mm}
        onChange={(mm) => {
          if (isWide(mm)) change({ do: "write", part: { stated_width_mm: mm } });
        }}
        onEmpty={() => change({ do: "write", part: { stated_width_mm: null } })}
      />
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
    </>
  );
}

/** Whether a piece can be so wide; less is a figure half typed. */
const isWide = (mm: number): boolean => mm >= 10 && mm <= 400;

interface StepRowProps {
  step: Told;
  place: number;
  own: boolean;
  headed: boolean;
  words: Words;
  onWrite: (part: Partial<Step>) => void;
  onMove: (by: -1 | 1) => void;
  onAdd: () => void;
  onRemove: () => void;
}

const WHOSE = { card: "", usual: "usual", habit: "habit" } as const;

/** One step: its words, its kind, and its minutes; of each piece, seconds. */
function StepRow(props: StepRowProps) {
  const { step, place, own, headed, words, onWrite, onMove, onAdd, onRemove } = props;
  const name = `step ${place + 1}`;
  const each = step.per === "piece";
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_8rem_4.75rem_4.5rem_4rem_10.5rem] items-start gap-x-2 py-1 max-md:grid-cols-[minmax(0,1fr)_4.5rem_4rem_4rem]">
      <div className={`flex flex-col max-md:col-span-full ${headed ? "pt-4 max-md:pt-0" : ""}`}>
        <Typed
          label={`Step ${place + 1}`}
          value={step.text}
          most={1000}
          onChange={(text) => onWrite({ text })}
          className="w-full border-transparent bg-transparent px-1 py-0 text-lg first-letter:uppercase hover:border-line"
        />
        <span className="flex flex-wrap items-baseline gap-x-2 px-1 text-[0.9375rem] text-soft">
          {WHOSE[step.origin] && <em>{WHOSE[step.origin]}</em>}
          <Typed
            label={`Cue of ${name}`}
            value={step.cue}
            most={300}
            placeholder="until …"
            onChange={(cue) => onWrite({ cue })}
            className="min-w-16 flex-1 border-transparent bg-transparent px-0 py-0 hover:border-line"
          />
          {step.caution && <strong className="text-caution">Caution:</strong>}
          <Typed
            label={`Caution of ${name}`}
            value={step.caution}
            most={300}
            placeholder="mind …"
            onChange={(caution) => onWrite({ caution })}
            className={`${step.caution ? "basis-full text-ink" : "w-16 flex-none"} border-transparent bg-transparent px-0 py-0 hover:border-line`}
          />
        </span>
      </div>
      <div
        className={`flex flex-col max-md:col-span-full max-md:flex-row ${headed ? "mt-5 max-md:mt-0" : ""}`}
      >
        <select
          aria-label={`Kind of ${name}`}
          className="min-h-9 w-full"
          value={step.kind}
          onChange={(event) => onWrite({ kind: event.target.value as StepKind })}
        >
          {kindsByStage(words).map(([stage, kinds]) => (
            <optgroup key={stage} label={stage}>
              {kinds.map((kind) => (
                <option key={kind.kind} value={kind.kind}>
                  {kind.label}
                </option>
              ))}
            </optgroup>
          ))}
        </select>
        <Choice
          label={`Where ${name} is done`}
          value={step.where}
          ways={words.places.map((one) => [one.key, one.label] as const)}
          onChange={(where) => onWrite({ where })}
        />
        {OF_PIECES.has(step.stage) && step.per !== "session" && (
          <Choice
            label={`What the minutes of ${name} are of`}
            value={step.per}
            ways={PER}
            onChange={(per) => onWrite({ per })}
          />
        )}
      </div>
      {each ? (
        <Figure
          label="each, s"
          headed={headed}
          name={`Seconds a piece of ${name}`}
          value={step.each_s}
          most={600}
          onChange={(each_s) => onWrite({ each_s: each_s ?? 0 })}
        />
      ) : (
        <Figure
          label="hands, min"
          headed={headed}
          name={`Hands minutes of ${name}`}
          value={step.hands_min}
          most={240}
          onChange={(hands_min) => onWrite({ hands_min: hands_min ?? 0 })}
        />
      )}
      <Figure
        label="wait, min"
        headed={headed}
        name={`Waiting minutes of ${name}`}
        value={step.wait_min}
        most={2880}
        onChange={(wait_min) => onWrite({ wait_min: wait_min ?? 0 })}
      />
      <Figure
        label="at most"
        headed={headed}
        name={`Most waiting minutes of ${name}`}
        value={step.wait_most_min}
        most={2880}
        onChange={(wait_most_min) => onWrite({ wait_most_min })}
      />
      <span
        className={`flex items-center justify-end gap-1 max-md:col-span-full ${headed ? "pt-5 max-md:pt-1" : ""}`}
      >
        {own ? (
          <RowButtons
            name={name}
            first={place === 0}
            last={false}
            onMove={onMove}
            onRemove={onRemove}
          />
        ) : (
          <button type="button" className="press min-h-9 text-[0.9375rem]" onClick={onRemove}>
            Leave out<span className="sr-only"> {name}</span>
          </button>
        )}
        <button
          type="button"
          className="press min-h-9"
          aria-label={`Add a step after ${name}`}
          onClick={onAdd}
        >
          +
        </button>
      </span>
    </li>
  );
}

const PER = [
  ["dough", "of all of it"],
  ["tray", "of a tray"],
  ["piece", "of a piece"],
] as const;
/** Stages of which minutes may be of all the dough, of a tray or of a piece. */
const OF_PIECES: ReadonlySet<Stage> = new Set<Stage>(["make", "after", "finish"]);

interface ChoiceProps<Of extends string> {
  label: string;
  value: Of;
  ways: readonly (readonly [Of, string])[];
  onChange: (value: Of) => void;
}

/** One of some ways, in the line of words that it stands in. */
function Choice<Of extends string>({ label, value, ways, onChange }: ChoiceProps<Of>) {
  return (
    <select
      aria-label={label}
      className="min-h-0 w-full border-transparent bg-transparent px-1 py-0 text-[0.9375rem] text-soft hover:border-line"
      value={value}
      onChange={(event) => {
        const chosen = ways.find(([way]) => way === event.target.value);
        if (chosen) onChange(chosen[0]);
      }}
    >
      {ways.map(([way, said]) => (
        <option key={way} value={way}>
          {said}
        </option>
      ))}
    </select>
  );
}

interface TypedProps {
  label: string;
  value: string;
  most: number;
  placeholder?: string;
  className: string;
  onChange: (text: string) => void;
}

/** Words that stay as they are typed while the step is told anew. */
function Typed({ label, value, most, placeholder, className, onChange }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <textarea
      aria-label={label}
      className={`field-sizing-content resize-none ${className}`}
      rows={1}
      placeholder={placeholder}
      value={typed ?? value}
      maxLength={most}
      onFocus={() => setTyped(value)}
      onBlur={() => setTyped(null)}
      onChange={(event) => {
        setTyped(event.target.value);
        onChange(event.target.value);
      }}
    />
  );
}

interface FigureProps {
  label: string;
  name: string;
  value: number | null;
  most: number;
  headed: boolean;
  onChange: (minutes: number | null) => void;
}

function Figure({ label, name, value, most, headed, onChange }: FigureProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = value === null || value === 0 ? "" : String(Math.max(Math.round(value), 1));
  const read = (text: string) => {
    const found = Number.parseInt(text, 10);
    return Number.isNaN(found) ? null : Math.min(Math.max(found, 0), most);
  };
  return (
    <label className="flex flex-col text-[0.9375rem] text-soft">
      <span className={headed ? "whitespace-nowrap" : "sr-only"}>{label}</span>
      <input
        aria-label={name}
        className="w-full text-right text-lg text-ink"
        inputMode="numeric"
        value={typed ?? shown}
        onFocus={() => setTyped(shown)}
        onBlur={() => setTyped(null)}
        onChange={(event) => {
          setTyped(event.target.value);
          onChange(read(event.target.value));
        }}
      />
    </label>
  );
}

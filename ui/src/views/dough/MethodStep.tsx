import { useEffect, useRef, useState } from "react";
import type { Words } from "../../api/client";
import type { Step } from "../../logic/draft";
import { kindsByStage, minutesOf, type Stage, type StepKind, type Told } from "../../logic/method";
import { RowButtons } from "../../parts/RowButtons";
import { StepBar } from "./TimeLine";

interface StepRowProps extends StepFieldsProps {
  open: boolean;
  onOpen: (open: boolean) => void;
}

const WHOSE = { card: "", usual: "usual", habit: "habit" } as const;

/** One step as it is read: what is done, until when, how long; pressed, its fields open below. */
export function StepRow({ open, onOpen, ...fields }: StepRowProps) {
  const { step, place } = fields;
  return (
    <li className={open ? "mb-2 border-l-4 border-ink pl-2" : ""}>
      <button
        type="button"
        aria-expanded={open}
        className="grid w-full grid-cols-[minmax(0,1fr)_13rem] items-center gap-x-4 py-1.5 text-left hover:bg-wash max-md:grid-cols-1"
        onClick={() => onOpen(!open)}
      >
        {open ? (
          <strong>
            Step {place + 1}: {step.label}
          </strong>
        ) : (
          <span className="min-w-0">
            <span className="text-lg first-letter:uppercase">
              {step.text || <span className="text-soft">Nothing is said yet</span>}
            </span>
            {WHOSE[step.origin] && (
              <em className="ml-2 text-[0.9375rem] text-soft">{WHOSE[step.origin]}</em>
            )}
            {step.cue && <span className="block text-[0.9375rem] text-soft">{step.cue}</span>}
            {step.caution && (
              <span className="block text-[0.9375rem]">
                <strong className="text-caution">Caution:</strong> {step.caution}
              </span>
            )}
          </span>
        )}
        <span className="flex flex-col gap-0.5">
          <StepBar step={step} />
          <span className="text-[0.9375rem]">
            {open ? "close" : minutesOf(step) || "no time of its own"}
            <span aria-hidden="true" className="float-right text-soft">
              {open ? "▴" : "▾"}
            </span>
          </span>
        </span>
      </button>
      {open && <StepFields {...fields} />}
    </li>
  );
}

interface StepFieldsProps {
  step: Told;
  place: number;
  own: boolean;
  words: Words;
  /** Whether it was just added: its words are typed next. */
  added: boolean;
  onWrite: (part: Partial<Step>) => void;
  onMove: (by: -1 | 1) => void;
  onAdd: () => void;
  onRemove: () => void;
}

/** A step as it is changed: its words, its kind, and its minutes; of each piece, seconds. */
function StepFields(props: StepFieldsProps) {
  const { step, place, own, words, added, onWrite, onMove, onAdd, onRemove } = props;
  const name = `step ${place + 1}`;
  return (
    <div className="flex flex-col gap-2 pb-3">
      <Typed
        label={`Step ${place + 1}`}
        heading="What is done"
        value={step.text}
        most={1000}
        first={added}
        onChange={(text) => onWrite({ text })}
      />
      <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
        <Typed
          label={`Cue of ${name}`}
          heading="Until, or how it looks then"
          value={step.cue}
          most={300}
          onChange={(cue) => onWrite({ cue })}
        />
        <Typed
          label={`Caution of ${name}`}
          heading="Mind"
          value={step.caution}
          most={300}
          onChange={(caution) => onWrite({ caution })}
        />
      </div>
      <div className="flex flex-wrap items-end gap-x-3 gap-y-2">
        <label className="flex flex-col text-[0.9375rem] text-soft">
          Kind
          <select
            aria-label={`Kind of ${name}`}
            className="min-h-9 max-w-44 text-ink"
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
        </label>
        <Choice
          label={`Where ${name} is done`}
          heading="Where"
          value={step.where}
          ways={words.places.map((one) => [one.key, one.label] as const)}
          onChange={(where) => onWrite({ where })}
        />
        {OF_PIECES.has(step.stage) && step.per !== "session" && (
          <Choice
            label={`What the minutes of ${name} are of`}
            heading="Minutes"
            value={step.per}
            ways={PER}
            onChange={(per) => onWrite({ per })}
          />
        )}
        {step.per === "piece" ? (
          <Figure
            label="each, s"
            name={`Seconds a piece of ${name}`}
            value={step.each_s}
            most={600}
            onChange={(each_s) => onWrite({ each_s: each_s ?? 0 })}
          />
        ) : (
          <Figure
            label="hands, min"
            name={`Hands minutes of ${name}`}
            value={step.hands_min}
            most={240}
            onChange={(hands_min) => onWrite({ hands_min: hands_min ?? 0 })}
          />
        )}
        <Figure
          label="wait, min"
          name={`Waiting minutes of ${name}`}
          value={step.wait_min}
          most={2880}
          onChange={(wait_min) => onWrite({ wait_min: wait_min ?? 0 })}
        />
        <Figure
          label="at most"
          name={`Most waiting minutes of ${name}`}
          value={step.wait_most_min}
          most={2880}
          onChange={(wait_most_min) => onWrite({ wait_most_min })}
        />
        <span className="ml-auto flex items-center gap-1">
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
            + step
          </button>
        </span>
      </div>
    </div>
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
  heading: string;
  value: Of;
  ways: readonly (readonly [Of, string])[];
  onChange: (value: Of) => void;
}

/** One of some ways. */
function Choice<Of extends string>({ label, heading, value, ways, onChange }: ChoiceProps<Of>) {
  return (
    <label className="flex flex-col text-[0.9375rem] text-soft">
      {heading}
      <select
        aria-label={label}
        className="min-h-9 max-w-40 text-ink"
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
    </label>
  );
}

interface TypedProps {
  label: string;
  heading: string;
  value: string;
  most: number;
  /** Whether it is typed in at once. */
  first?: boolean;
  onChange: (text: string) => void;
}

/** Words that stay as they are typed while the step is told anew. */
function Typed({ label, heading, value, most, first, onChange }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    if (first) field.current?.focus();
  }, [first]);
  return (
    <label className="flex flex-col text-[0.9375rem] text-soft">
      {heading}
      <textarea
        ref={field}
        aria-label={label}
        className="field-sizing-content w-full resize-none text-lg text-ink"
        rows={1}
        value={typed ?? value}
        maxLength={most}
        onFocus={() => setTyped(value)}
        onBlur={() => setTyped(null)}
        onChange={(event) => {
          setTyped(event.target.value);
          onChange(event.target.value);
        }}
      />
    </label>
  );
}

interface FigureProps {
  label: string;
  name: string;
  value: number | null;
  most: number;
  onChange: (minutes: number | null) => void;
}

function Figure({ label, name, value, most, onChange }: FigureProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = value === null || value === 0 ? "" : String(Math.max(Math.round(value), 1));
  const read = (text: string) => {
    const found = Number.parseInt(text, 10);
    return Number.isNaN(found) ? null : Math.min(Math.max(found, 0), most);
  };
  return (
    <label className="flex flex-col text-[0.9375rem] text-soft">
      <span className="whitespace-nowrap">{label}</span>
      <input
        aria-label={name}
        className="min-h-9 w-20 text-right text-lg text-ink"
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

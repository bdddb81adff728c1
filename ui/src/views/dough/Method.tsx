import { useState } from "react";
import type { Study, Words } from "../../api/client";
import type { Card, Change, Step } from "../../logic/draft";
import { degrees, dial, exampleOven, fine, length } from "../../logic/format";
import {
  type Changed,
  isOwn,
  STAGE,
  type StepKind,
  stretches,
  type Told,
  withoutStep,
  withStep,
  withStepAfter,
  withStepMoved,
} from "../../logic/method";
import { NumberField } from "../../parts/NumberField";
import { StepRow } from "./MethodStep";
import { TimeLine } from "./TimeLine";

interface MethodProps {
  card: Card;
  words: Words;
  study: Study | undefined;
  /** Whether the study is of the card as it is now. */
  fresh: boolean;
  change: (change: Change) => void;
}

interface Shown {
  open: number | null;
  added: number | null;
}

/** The whole method as a line of time: what it is, how long the plan counts for it, whose it is. */
export function Method({ card, words, study, fresh, change }: MethodProps) {
  const { told, known, note } = useTold(card, study?.told ?? [], fresh);
  // One step is open at a time; one that was just added waits for its words.
  const [{ open, added }, setShown] = useState<Shown>({ open: null, added: null });
  const show = (place: number | null, fresh: number | null = null) =>
    setShown({ open: place, added: fresh });
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
              {steps.map(({ step, place }) => (
                <StepRow
                  key={place}
                  step={step}
                  place={place}
                  own={isOwn(step, card)}
                  words={words}
                  open={place === open}
                  added={place === added}
                  onOpen={(wanted) => show(wanted ? place : null)}
                  onWrite={(part) =>
                    write(
                      withStep(card, told, place, part, words),
                      `step ${place} ${Object.keys(part)}`,
                    )
                  }
                  onMove={(by) => {
                    write(withStepMoved(card, told, place, by));
                    show(place + by);
                  }}
                  onAdd={() => {
                    write(withStepAfter(card, told, place));
                    show(place + 1, place + 1);
                  }}
                  onRemove={() => {
                    show(null);
                    if (isOwn(step, card)) write(withoutStep(card, told, place));
                    else without([...card.without, step.kind]);
                  }}
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

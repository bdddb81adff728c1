import { useState } from "react";
import type { Study, Words } from "../../api/client";
import type { Card, Change, DraftPart, PartKind } from "../../logic/draft";
import { mass } from "../../logic/format";
import { NumberField } from "../../parts/NumberField";
import { Select } from "../../parts/Select";
import { LinesOf } from "./PartLines";
import { PART_OPTIONS } from "./partKinds";

interface PartsProps {
  card: Card;
  words: Words;
  study: Study | undefined;
  change: (change: Change) => void;
}

/** What goes with the dough: each its own small formula, scaled to the pieces that there are. */
export function Parts({ card, words, study, change }: PartsProps) {
  const [kind, setKind] = useState<PartKind>("icing");
  const taken = new Set(card.parts.map((part) => part.name));
  const fresh = (name: string): string => {
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
    return free;
  };
  return (
    <div className="flex flex-col gap-6">
      {card.parts.length === 0 && (
        <p className="text-soft">
          A wash, filling, coating, topping, icing, dip or dusting is a small formula of its own:
          say what a piece takes of it, and it is scaled to the yield. What is for the bench goes
          into no piece.
        </p>
      )}
      {card.parts.map((part, n) => (
        <PartSection
          key={part.id}
          part={part}
          need={study?.parts[n]}
          pieces={study?.piece?.pieces ?? null}
          card={card}
          words={words}
          change={change}
        />
      ))}
      <div className="flex items-end gap-3 border-t border-line pt-4">
        <Select label="Another part" value={kind} options={PART_OPTIONS} onChange={setKind} />
        <button
          type="button"
          className="press"
          onClick={() => change({ do: "addPart", kind, name: fresh(kind) })}
        >
          Add it
        </button>
      </div>
    </div>
  );
}

interface PartSectionProps {
  part: DraftPart;
  need: Study["parts"][number] | undefined;
  pieces: number | null;
  card: Card;
  words: Words;
  change: (change: Change) => void;
}

function PartSection({ part, need, pieces, card, words, change }: PartSectionProps) {
  const write = (written: Partial<DraftPart>) => change({ do: "part", id: part.id, part: written });
  return (
    <section aria-label={part.name}>
      <div className="mb-3 flex flex-wrap items-end gap-4 border-b-2 border-ink pb-2">
        <label className="flex flex-col text-[0.9375rem] text-soft">
          Name of the part
          <input
            className="w-56 text-xl font-bold text-ink"
            value={part.name}
            maxLength={60}
            onChange={(event) => write({ name: event.target.value || " " })}
          />
        </label>
        <Select
          label="Kind"
          value={part.kind}
          options={PART_OPTIONS}
          onChange={(kind) => write({ kind })}
        />
        {part.kind !== "bench" && (
          <NumberField
            label={`A piece takes of ${part.name}`}
            measure="mass"
            value={part.per_piece_g}
            onChange={(per_piece_g) =>
              write({ per_piece_g: Math.min(Math.max(per_piece_g, 0), 500) })
            }
          />
        )}
        <button
          type="button"
          className="press ml-auto min-h-9"
          onClick={() => change({ do: "removePart", id: part.id })}
        >
          Take {part.name} out
        </button>
      </div>
      <LinesOf part={part} weighed={need?.weighed} card={card} words={words} change={change} />
      {need && pieces !== null && <Needed part={part} need={need} pieces={pieces} words={words} />}
    </section>
  );
}

interface NeededProps {
  part: DraftPart;
  need: Study["parts"][number];
  pieces: number;
  words: Words;
}

function Needed({ part, need, pieces, words }: NeededProps) {
  const { factor } = need;
  if (!factor) return null;
  return (
    <div className="mt-3">
      <p>
        {pieces} pieces take <strong>{mass(need.need_g)}</strong>; the card makes{" "}
        {mass(need.weighed.total_g)}: make it <strong>× {factor.toFixed(2)}</strong>.
      </p>
      <ul className="mt-1 flex flex-wrap gap-x-6">
        {part.lines.map((line, n) => {
          const weight = need.weighed.lines[n]?.grams;
          const name = words.ingredients.find((i) => i.key === line.ingredient)?.name;
          return weight == null ? null : (
            <li key={line.id}>
              <strong>{mass(weight * factor)}</strong> {name}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

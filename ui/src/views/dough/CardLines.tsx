import { useState } from "react";
import type { Ingredient, Unit, Weighed } from "../../api/client";
import { grams, percent } from "../../app/format";
import { Cross } from "../../parts/Cross";
import { IngredientPicker } from "../../parts/IngredientPicker";
import type { Change, DraftLine } from "./draft";
import { PasteCard } from "./PasteCard";

interface CardLinesProps {
  lines: DraftLine[];
  weighed: Weighed | undefined;
  ingredients: Ingredient[];
  change: (change: Change) => void;
}

const ALL_UNITS: Unit[] = ["g", "oz", "cup", "tbsp", "tsp", "egg", "stick"];

/** The card: each line as written, and beside it in grams and percent of the flour. */
export function CardLines({ lines, weighed, ingredients, change }: CardLinesProps) {
  const [pasting, setPasting] = useState(false);
  const most = Math.max(100, ...(weighed?.lines.map((l) => l.percent ?? 0) ?? []));
  return (
    <div>
      <div
        aria-hidden="true"
        className="grid grid-cols-(--card-columns) gap-1.5 border-b-2 border-ink pb-1 text-[0.9375rem] text-soft [--card-columns:4.25rem_4.75rem_minmax(9rem,1fr)_4.25rem_3rem_minmax(0,5.5rem)_6rem] max-md:[--card-columns:4.25rem_4.75rem_1fr]"
      >
        <span>amount</span>
        <span>unit</span>
        <span>ingredient</span>
        <span className="text-right max-md:hidden">grams</span>
        <span className="col-span-2 pl-4 max-md:hidden">% of flour</span>
      </div>
      <ol>
        {lines.map((line, n) => (
          <CardLine
            key={line.id}
            line={line}
            place={n}
            last={n === lines.length - 1}
            weighed={weighed?.lines[n]}
            faults={weighed?.faults.filter((f) => f.field.startsWith(`lines.${n}.`)) ?? []}
            most={most}
            ingredients={ingredients}
            change={change}
          />
        ))}
      </ol>
      <div className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="press" onClick={() => change({ do: "add" })}>
          Add a line
        </button>
        <button
          type="button"
          className="press"
          aria-expanded={pasting}
          onClick={() => setPasting(!pasting)}
        >
          Paste a card
        </button>
      </div>
      {pasting && (
        <PasteCard
          ingredients={ingredients}
          onAdd={(pasted) => {
            change({ do: "paste", lines: pasted });
            setPasting(false);
          }}
          onClose={() => setPasting(false)}
        />
      )}
    </div>
  );
}

interface CardLineProps {
  line: DraftLine;
  place: number;
  last: boolean;
  weighed: Weighed["lines"][number] | undefined;
  faults: Weighed["faults"];
  most: number;
  ingredients: Ingredient[];
  change: (change: Change) => void;
}

/** A fresh line is not scolded before anything was written in it. */
const untouched = (line: DraftLine) => line.amount === "" && line.ingredient === null;

function CardLine(props: CardLineProps) {
  const { line, place, last, weighed, most, ingredients, change } = props;
  const faults = untouched(line) ? [] : props.faults;
  const chosen = ingredients.find((i) => i.key === line.ingredient);
  const units = chosen?.units ?? ALL_UNITS;
  const fault = (field: string) => faults.find((f) => f.field === `lines.${place}.${field}`);
  const write = (part: Partial<DraftLine>) => change({ do: "line", id: line.id, part });
  const name = `line ${place + 1}`;

  const choose = (key: string) => {
    const ingredient = ingredients.find((i) => i.key === key);
    const fits = ingredient?.units.includes(line.unit);
    write({ ingredient: key, ...(fits ? {} : { unit: ingredient?.natural_unit?.unit ?? "g" }) });
  };

  return (
    <li className="border-b border-line py-0.5">
      <div className="grid grid-cols-[4.25rem_4.75rem_minmax(9rem,1fr)_4.25rem_3rem_minmax(0,5.5rem)_6rem] items-center gap-1.5 max-md:grid-cols-[4.25rem_4.75rem_1fr]">
        <input
          aria-label={`Amount, ${name}`}
          aria-invalid={Boolean(fault("amount"))}
          className="border-transparent text-right text-lg font-semibold hover:border-line"
          value={line.amount}
          maxLength={40}
          autoComplete="off"
          onChange={(event) => write({ amount: event.target.value })}
        />
        <select
          aria-label={`Unit, ${name}`}
          aria-invalid={Boolean(fault("unit"))}
          className="border-transparent hover:border-line"
          value={line.unit}
          onChange={(event) => write({ unit: event.target.value as Unit })}
        >
          {(units.includes(line.unit) ? units : [...units, line.unit]).map((unit) => (
            <option key={unit}>{unit}</option>
          ))}
        </select>
        <IngredientPicker
          label={`Ingredient, ${name}`}
          ingredients={ingredients}
          value={line.ingredient}
          onChange={choose}
          fault={fault("ingredient")?.message}
        />
        <span className="text-right text-lg" data-figure="grams">
          {weighed?.grams == null ? "–" : `${grams(weighed.grams)} g`}
        </span>
        <span className="text-right" data-figure="percent">
          {weighed?.percent == null ? "–" : percent(weighed.percent)}
        </span>
        <PercentBar percent={weighed?.percent ?? 0} most={most} />
        <span className="flex justify-end">
          <button
            type="button"
            className="icon-press"
            aria-label={`Move ${name} up`}
            disabled={place === 0}
            onClick={() => change({ do: "move", id: line.id, by: -1 })}
          >
            <Arrow up />
          </button>
          <button
            type="button"
            className="icon-press"
            aria-label={`Move ${name} down`}
            disabled={last}
            onClick={() => change({ do: "move", id: line.id, by: 1 })}
          >
            <Arrow />
          </button>
          <button
            type="button"
            className="icon-press"
            aria-label={`Take ${name} out`}
            onClick={() => change({ do: "remove", id: line.id })}
          >
            <Cross />
          </button>
        </span>
      </div>
      {faults.map((f) => (
        <p key={f.field} className="pb-1 text-[0.9375rem] text-caution">
          {f.message}
        </p>
      ))}
    </li>
  );
}

function Arrow({ up = false }: { up?: boolean }) {
  return (
    <svg aria-hidden="true" width="14" height="14" viewBox="0 0 14 14">
      <path
        d={up ? "M7 12V2M2.5 6.5L7 2l4.5 4.5" : "M7 2v10M2.5 7.5L7 12l4.5-4.5"}
        stroke="currentColor"
        strokeWidth="2"
        fill="none"
      />
    </svg>
  );
}

/** The line's percentage as a length, with marks every quarter of the flour. */
function PercentBar({ percent: value, most }: { percent: number; most: number }) {
  return (
    <svg
      aria-hidden="true"
      viewBox={`0 0 ${most} 10`}
      preserveAspectRatio="none"
      className="h-4 w-full max-md:hidden"
    >
      {[25, 50, 75, 100].map((x) => (
        <line
          key={x}
          x1={x}
          x2={x}
          y1={0}
          y2={10}
          className="stroke-line"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <rect y={2.5} width={value} height={5} className="fill-enamel" />
    </svg>
  );
}

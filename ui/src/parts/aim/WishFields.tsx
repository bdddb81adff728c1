import {
  type Aim,
  type Figure,
  SENSES,
  wished,
  withFigure,
  withoutToo,
  withSense,
} from "../../logic/aim";
import type { Measure } from "../../logic/measures";
import { NumberField } from "../NumberField";
import { Select } from "../Select";

interface WishFieldsProps {
  aim: Aim;
  /** Whether a piece has a width of its own. */
  wide: boolean;
  onAim: (aim: Aim) => void;
}

const DONE = [
  ["", "as it is"],
  ["soft_centre", "soft centre"],
  ["chewy", "chewy"],
  ["set", "set"],
  ["crisp", "crisp"],
  ["dry", "dry"],
] as const;

const COLOURS = [
  ["", "as it is"],
  ["pale", "pale"],
  ["golden", "golden"],
  ["brown", "brown"],
] as const;

const FREE = [
  ["egg", "without eggs"],
  ["milk", "without milk"],
  ["gluten", "without gluten"],
] as const;

/** All that may be wished of a piece; what is left empty is as it comes. */
export function WishFields({ aim, wide, onAim }: WishFieldsProps) {
  const figure = (key: Figure, label: string, measure: Measure | null, step: number) => (
    <div className="flex items-end gap-2">
      <NumberField
        label={label}
        {...(measure ? { measure } : { unit: "min" })}
        value={aim[key]?.figure ?? null}
        step={step}
        onChange={(value) => onAim(withFigure(aim, key, value))}
        onEmpty={() => onAim(withFigure(aim, key, null))}
        className="w-16 text-lg font-semibold"
      />
      {aim[key] && (
        <Select
          label="meant"
          value={aim[key].sense}
          options={SENSES}
          onChange={(sense) => onAim(withSense(aim, key, sense))}
        />
      )}
    </div>
  );
  return (
    <fieldset className="flex flex-wrap items-end gap-x-5 gap-y-3">
      <legend className="sr-only">What is wished</legend>
      {wide && figure("width_mm", "Wide", "width", 1)}
      {figure("height_mm", "High", "length", 0.5)}
      {figure("minutes", "In the oven", null, 1)}
      <NumberField
        label="Sugar at most"
        unit="% baked"
        value={aim.sugar_pct ?? null}
        step={1}
        onChange={(value) => onAim(wished(aim, "sugar_pct", value))}
        onEmpty={() => onAim(wished(aim, "sugar_pct", null))}
        className="w-14 text-lg font-semibold"
      />
      <NumberField
        label="Keeps at least"
        unit="days"
        value={aim.keeps_days ?? null}
        step={1}
        onChange={(value) => onAim(wished(aim, "keeps_days", Math.round(value)))}
        onEmpty={() => onAim(wished(aim, "keeps_days", null))}
        className="w-14 text-lg font-semibold"
      />
      <Select
        label="Baked"
        value={aim.doneness ?? ""}
        options={DONE}
        onChange={(done) => onAim(wished(aim, "doneness", done || null))}
      />
      <Select
        label="Colour"
        value={aim.colour ?? ""}
        options={COLOURS}
        onChange={(colour) => onAim(wished(aim, "colour", colour || null))}
      />
      <div className="flex flex-wrap gap-x-4">
        {FREE.map(([one, label]) => (
          <Tick
            key={one}
            label={label}
            on={aim.without?.includes(one) ?? false}
            onChange={() => onAim(withoutToo(aim, one))}
          />
        ))}
        <Tick
          label="only what is in the house"
          on={aim.from_house ?? false}
          onChange={(on) => onAim(wished(aim, "from_house", on))}
        />
      </div>
    </fieldset>
  );
}

interface TickProps {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
}

function Tick({ label, on, onChange }: TickProps) {
  return (
    <label className="flex min-h-9 items-center gap-2">
      <input
        type="checkbox"
        className="size-5"
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  );
}

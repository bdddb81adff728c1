import { useState } from "react";
import { inSystem, SYSTEMS, systemOf, type Units } from "../logic/kitchenUnits";
import { Choice } from "./Choice";

interface UnitsFieldsProps {
  units: Units;
  onUnits: (units: Units) => void;
}

const MIXED = [
  [
    "temperature",
    "Temperatures in",
    [
      ["C", "°C"],
      ["F", "°F"],
    ],
  ],
  [
    "length",
    "Lengths in",
    [
      ["metric", "mm, cm"],
      ["inches", "inches"],
    ],
  ],
  [
    "mass",
    "Masses in",
    [
      ["metric", "g"],
      ["ounces", "oz, lb"],
    ],
  ],
  [
    "volume",
    "Volumes in",
    [
      ["metric", "ml"],
      ["cups", "cups, spoons"],
    ],
  ],
] as const;

const CLOCKS = [
  ["24 h", "14:30"],
  ["12 h", "2:30 pm"],
] as const;

const DATES = [
  ["day first", "day, month"],
  ["month first", "month, day"],
  ["year first", "year first"],
] as const;

/** In what units figures are read: one setting, or each chosen; the clock and the order of dates. */
export function UnitsFields({ units, onUnits }: UnitsFieldsProps) {
  const system = systemOf(units);
  const [mixing, setMixing] = useState(false);
  const shown = mixing ? "mixed" : system;
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
      <Choice
        label="Figures are"
        value={shown}
        options={SYSTEMS}
        onChange={(next) => {
          setMixing(next === "mixed");
          if (next !== "mixed") onUnits(inSystem(units, next));
        }}
      />
      {shown === "mixed" &&
        MIXED.map(([measure, label, options]) => (
          <Choice
            key={measure}
            label={label}
            value={units[measure] as string}
            options={options}
            onChange={(next) => onUnits({ ...units, [measure]: next })}
          />
        ))}
      <Choice
        label="The clock says"
        value={units.clock}
        options={CLOCKS}
        onChange={(clock) => onUnits({ ...units, clock })}
      />
      <Choice
        label="Dates are"
        value={units.dates}
        options={DATES}
        onChange={(dates) => onUnits({ ...units, dates })}
      />
      <p className="text-[0.9375rem] text-soft">
        Any field takes another unit as well: 2 1/4 in, 6 cm, 350 F, gas 4, 1 lb 4 oz.
      </p>
    </div>
  );
}

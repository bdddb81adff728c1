import { useState } from "react";
import { figureOf, type Measure } from "../logic/measures";
import { Field } from "./Field";

interface NumberFieldProps {
  label: string;
  /** What is measured: the field is read and typed in the kitchen's unit, or in any that is typed. */
  measure?: Measure;
  /** The unit of what has but one. A unit that kitchens read differently stands for its measure. */
  unit?: string;
  /** None where the field may be empty and is. */
  value: number | null;
  onChange: (value: number) => void;
  /** Given where the field may be empty. */
  onEmpty?: () => void;
  fault?: string | undefined;
  note?: React.ReactNode;
  className?: string;
  /** How far the up and down arrows move it. */
  step?: number;
}

/** A number typed in; what is typed stays as it is, the last number in it counts. */
export function NumberField({
  label,
  measure,
  unit,
  value,
  onChange,
  onEmpty,
  fault,
  note,
  className,
  step,
}: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const figure = figureOf(measure, unit);
  const isEmpty = (text: string) => onEmpty !== undefined && text.trim() === "";
  const isBroken = (text: string) => !isEmpty(text) && !Number.isFinite(figure.typed(text));
  const broken = typed !== null && isBroken(typed);
  return (
    <Field
      label={label}
      {...(figure.unit ? { unit: figure.unit } : {})}
      fault={broken ? "Give a number." : fault}
      note={note}
    >
      {(props) => (
        <input
          {...props}
          className={className ?? "w-20 text-lg font-semibold"}
          inputMode={figure.keys}
          autoComplete="off"
          value={typed ?? (value === null ? "" : figure.shown(value))}
          onChange={(event) => {
            setTyped(event.target.value);
            if (isEmpty(event.target.value)) return onEmpty?.();
            const number = figure.typed(event.target.value);
            if (Number.isFinite(number)) onChange(number);
          }}
          onKeyDown={(event) => {
            const way = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
            if (!step || !way || value === null) return;
            event.preventDefault();
            setTyped(null);
            onChange(figure.moved(value, way * step));
          }}
          onBlur={() => setTyped((text) => (text !== null && isBroken(text) ? text : null))}
        />
      )}
    </Field>
  );
}

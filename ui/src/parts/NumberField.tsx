import { useState } from "react";
import { parse } from "../logic/numbers";
import { Field } from "./Field";

interface NumberFieldProps {
  label: string;
  unit?: string;
  value: number;
  onChange: (value: number) => void;
  fault?: string | undefined;
  note?: React.ReactNode;
  className?: string;
  /** How far the up and down arrows move it. */
  step?: number;
}

const shown = (value: number): string => String(Math.round(value * 10) / 10);

/** A number typed in; what is typed stays as it is, the last number in it counts. */
export function NumberField({
  label,
  unit,
  value,
  onChange,
  fault,
  note,
  className,
  step,
}: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const broken = typed !== null && !Number.isFinite(parse(typed));
  return (
    <Field
      label={label}
      {...(unit ? { unit } : {})}
      fault={broken ? "Give a number." : fault}
      note={note}
    >
      {(props) => (
        <input
          {...props}
          className={className ?? "w-20 text-lg font-semibold"}
          inputMode="decimal"
          autoComplete="off"
          value={typed ?? shown(value)}
          onChange={(event) => {
            setTyped(event.target.value);
            const number = parse(event.target.value);
            if (Number.isFinite(number)) onChange(number);
          }}
          onKeyDown={(event) => {
            const way = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
            if (!step || !way) return;
            event.preventDefault();
            setTyped(null);
            onChange(Math.round((value + way * step) * 1000) / 1000);
          }}
          onBlur={() =>
            setTyped((text) => (text !== null && !Number.isFinite(parse(text)) ? text : null))
          }
        />
      )}
    </Field>
  );
}

import { Field } from "./Field";

interface MeasureProps {
  label: string;
  unit?: string;
  fault?: string | undefined;
  disabled?: boolean;
  value: string;
  onChange: (text: string) => void;
}

/** A figure that was measured, as it is typed. */
export function Measure({ label, unit, fault, disabled = false, value, onChange }: MeasureProps) {
  return (
    <Field label={label} {...(unit ? { unit } : {})} fault={fault}>
      {(props) => (
        <input
          {...props}
          className="w-20 text-lg font-semibold"
          inputMode="decimal"
          autoComplete="off"
          disabled={disabled}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Field>
  );
}

import { useState } from "react";
import { parse } from "../../logic/numbers";
import { Field } from "../../parts/Field";

interface FigureProps {
  label: string;
  unit: string;
  value: number;
  fault: string | undefined;
  onValue: (value: number) => void;
}

/** A figure of the kitchen, kept when the field is left; what cannot be stays and says why. */
export function Figure({ label, unit, value, fault, onValue }: FigureProps) {
  const [text, setText] = useState<string | null>(null);
  const wanted = text === null ? value : parse(text);
  const broken = !Number.isFinite(wanted);
  const keep = () => {
    if (text === null || broken) return;
    if (wanted !== value) onValue(wanted);
  };
  return (
    <Field label={label} unit={unit} fault={broken ? "Give a number." : fault}>
      {(named) => (
        <input
          {...named}
          inputMode="decimal"
          className="w-18 text-lg font-semibold"
          value={text ?? String(value)}
          onChange={(event) => setText(event.target.value)}
          onBlur={keep}
          onKeyDown={(event) => event.key === "Enter" && keep()}
        />
      )}
    </Field>
  );
}

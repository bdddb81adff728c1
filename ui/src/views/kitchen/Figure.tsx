import { useState } from "react";
import { figureOf, type Measure } from "../../logic/measures";
import { Field } from "../../parts/Field";

interface FigureProps {
  label: string;
  measure?: Measure;
  unit?: string;
  value: number;
  fault: string | undefined;
  onValue: (value: number) => void;
}

/** A figure of the kitchen, kept when the field is left; what cannot be stays and says why. */
export function Figure({ label, measure, unit, value, fault, onValue }: FigureProps) {
  const [text, setText] = useState<string | null>(null);
  const figure = figureOf(measure, unit);
  const wanted = text === null ? value : figure.typed(text);
  const broken = !Number.isFinite(wanted);
  const keep = () => {
    if (text === null || broken) return;
    if (wanted !== value) onValue(wanted);
    setText(null);
  };
  return (
    <Field
      label={label}
      {...(figure.unit ? { unit: figure.unit } : {})}
      fault={broken ? "Give a number." : fault}
    >
      {(named) => (
        <input
          {...named}
          inputMode="decimal"
          className="w-18 text-lg font-semibold"
          value={text ?? figure.shown(value)}
          onChange={(event) => setText(event.target.value)}
          onBlur={keep}
          onKeyDown={(event) => event.key === "Enter" && keep()}
        />
      )}
    </Field>
  );
}

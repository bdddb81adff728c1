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
  const [here, setHere] = useState(false);
  const figure = figureOf(measure, unit);
  const wanted = text === null ? value : figure.typed(text);
  const broken = !Number.isFinite(wanted);
  const keep = () => {
    if (text === null || broken) return;
    if (wanted !== value) onValue(wanted);
  };
  // What was taken is shown as the kitchen reads it, once the field is left.
  const taken = text !== null && !here && !fault && wanted === value;
  return (
    <Field
      label={label}
      {...(figure.unit ? { unit: figure.unit } : {})}
      fault={broken ? "Give a number." : fault}
    >
      {(named) => (
        <input
          {...named}
          inputMode={figure.keys}
          className="w-18 text-lg font-semibold"
          value={text === null || taken ? figure.shown(value) : text}
          onFocus={() => setHere(true)}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => {
            setHere(false);
            keep();
          }}
          onKeyDown={(event) => event.key === "Enter" && keep()}
        />
      )}
    </Field>
  );
}

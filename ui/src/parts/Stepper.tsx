import { useId } from "react";

interface StepperProps {
  label: string;
  value: number;
  range: [number, number];
  /** Where the label stands beside it already, it is only read out. */
  hideLabel?: boolean;
  onChange: (value: number) => void;
}

/** A small whole number, one more or one less. */
export function Stepper({
  label,
  value,
  range: [low, high],
  hideLabel = false,
  onChange,
}: StepperProps) {
  const id = useId();
  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of two buttons and a figure, not of fields
    <div role="group" aria-labelledby={id} className="flex flex-col">
      <span id={id} className={hideLabel ? "sr-only" : "text-[0.9375rem] text-soft"}>
        {label}
      </span>
      <span className="flex w-fit items-center border border-line bg-sheet">
        <button
          type="button"
          className="icon-press min-h-9 min-w-9 text-xl"
          aria-label={`Fewer: ${label}`}
          disabled={value <= low}
          onClick={() => onChange(value - 1)}
        >
          −
        </button>
        <output className="w-8 text-center text-lg font-bold">{value}</output>
        <button
          type="button"
          className="icon-press min-h-9 min-w-9 text-xl"
          aria-label={`More: ${label}`}
          disabled={value >= high}
          onClick={() => onChange(value + 1)}
        >
          +
        </button>
      </span>
    </div>
  );
}

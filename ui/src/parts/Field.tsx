import { useId } from "react";

interface FieldProps {
  label: string;
  unit?: string;
  fault?: string | undefined;
  /** Where the figure is from, right below it. */
  note?: React.ReactNode;
  children: (props: {
    id: string;
    "aria-invalid": boolean;
    "aria-describedby": string | undefined;
  }) => React.ReactNode;
}

/** A labelled field with its unit and, right at it, what is wrong. */
export function Field({ label, unit, fault, note, children }: FieldProps) {
  const id = useId();
  return (
    <div className="flex min-w-0 flex-col">
      <label htmlFor={id} className="text-[0.9375rem] text-soft">
        {label}
      </label>
      <div className="flex min-w-0 items-baseline gap-1.5">
        {children({
          id,
          "aria-invalid": Boolean(fault),
          "aria-describedby": fault ? `${id}-fault` : note ? `${id}-note` : undefined,
        })}
        {unit && <span>{unit}</span>}
      </div>
      {note && (
        <span id={`${id}-note`} className="text-[0.9375rem] leading-tight text-enamel">
          {note}
        </span>
      )}
      {fault && (
        <p id={`${id}-fault`} className="max-w-64 text-[0.9375rem] text-caution">
          {fault}
        </p>
      )}
    </div>
  );
}

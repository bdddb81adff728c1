import { Field } from "./Field";

interface SelectProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  className?: string;
  note?: React.ReactNode;
}

/** One of a list. */
export function Select<T extends string>(props: SelectProps<T>) {
  const { label, value, options, onChange, className, note } = props;
  return (
    <Field label={label} note={note}>
      {(named) => (
        <select
          {...named}
          className={className}
          value={value}
          onChange={(event) => onChange(event.target.value as T)}
        >
          {options.map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

import { Field } from "./Field";

interface SelectProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}

/** One of a list. */
export function Select<T extends string>({ label, value, options, onChange }: SelectProps<T>) {
  return (
    <Field label={label}>
      {(props) => (
        <select {...props} value={value} onChange={(event) => onChange(event.target.value as T)}>
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

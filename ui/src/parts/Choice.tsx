import { ToggleGroup } from "radix-ui";
import { useId } from "react";

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}

/** One of a few, all in sight. */
export function Choice<T extends string>({ label, value, options, onChange }: ChoiceProps<T>) {
  const id = useId();
  return (
    <div className="flex flex-col">
      <span id={id} className="text-[0.9375rem] text-soft">
        {label}
      </span>
      <ToggleGroup.Root
        type="single"
        value={value}
        onValueChange={(next) => next && onChange(next as T)}
        aria-labelledby={id}
        className="flex flex-wrap"
      >
        {options.map(([key, word]) => (
          <ToggleGroup.Item
            key={key}
            value={key}
            className="-ml-px min-h-9 border border-line bg-sheet px-3 first:ml-0 hover:bg-wash data-[state=on]:relative data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:font-semibold data-[state=on]:text-paper"
          >
            {word}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

import { ToggleGroup } from "radix-ui";
import { useId } from "react";

const FILL = ["bg-raw", "bg-pale", "bg-blond", "bg-gold", "bg-amber", "bg-brown", "bg-dark"];

interface ColourStripProps {
  words: string[];
  value: number | null;
  onChange: (step: number | null) => void;
}

/** Name the bake's colour by eye: the steps of the ramp, each with its word. */
export function ColourStrip({ words, value, onChange }: ColourStripProps) {
  const id = useId();
  return (
    <div>
      <span id={id} className="text-[0.9375rem] text-soft">
        Colour by the strip
      </span>
      <ToggleGroup.Root
        type="single"
        aria-labelledby={id}
        value={value === null ? "" : String(value)}
        onValueChange={(step) => onChange(step ? Number(step) : null)}
        className="flex"
      >
        {words.map((word, n) => (
          <ToggleGroup.Item
            key={word}
            value={String(n + 1)}
            className="flex flex-1 flex-col items-stretch border-y-4 border-transparent text-[0.9375rem] data-[state=on]:border-ink data-[state=on]:font-bold"
          >
            <span aria-hidden="true" className={`h-9 ${FILL[n] ?? "bg-dark"}`} />
            {word}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}

/** A small patch of a step of the ramp. */
export function ColourPatch({ step }: { step: number }) {
  return (
    <span
      aria-hidden="true"
      className={`inline-block h-4 w-7 align-middle ${FILL[step - 1] ?? "bg-dark"}`}
    />
  );
}

/** The strip to look at: the steps that are right stand out. */
export function ColourToSee({
  words,
  right,
}: {
  words: string[];
  right: readonly [number, number];
}) {
  const [from, to] = right;
  const named = words.slice(from - 1, to).join(" to ");
  return (
    <div role="img" aria-label={`The colour to see: ${named}`} className="flex max-w-xl">
      {words.map((word, n) => {
        const is = n + 1 >= from && n + 1 <= to;
        return (
          <span
            key={word}
            className={`flex-1 text-center ${is ? "border-y-4 border-ink text-lg font-bold" : "border-y-4 border-transparent text-[0.9375rem]"}`}
          >
            <span className={`block ${FILL[n] ?? "bg-dark"} ${is ? "h-8" : "h-4"}`} />
            {is ? word : ""}
          </span>
        );
      })}
    </div>
  );
}

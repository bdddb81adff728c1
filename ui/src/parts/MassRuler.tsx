import { Slider } from "radix-ui";

interface MassRulerProps {
  label: string;
  range: [number, number];
  value: number;
  onChange: (grams: number) => void;
}

/** A mass set by dragging a mark along a ruler; arrows move it by a gram. */
export function MassRuler({ label, range: [low, high], value, onChange }: MassRulerProps) {
  const step = high > 200 ? 5 : 1;
  const numbered = high > 200 ? 100 : high > 60 ? 20 : 10;
  const marks = Array.from(
    { length: Math.floor((high - low) / (numbered / 10)) + 1 },
    (_, n) => low + (n * numbered) / 10,
  );
  const at = (g: number) => ((g - low) / (high - low)) * 220 + 10;
  return (
    <div className="relative mt-3 h-14 w-60">
      <svg aria-hidden="true" viewBox="0 0 240 56" className="absolute inset-0 overflow-visible">
        <line x1={10} x2={230} y1={20} y2={20} className="stroke-ink" strokeWidth={1.5} />
        {marks.map((g) => (
          <line
            key={g}
            x1={at(g)}
            x2={at(g)}
            y1={20}
            y2={g % numbered === 0 ? 32 : 26}
            className="stroke-ink"
          />
        ))}
        {marks
          .filter((g) => g % numbered === 0)
          .map((g) => (
            <text key={g} x={at(g)} y={47} textAnchor="middle" fontSize={14} className="fill-ink">
              {g}
            </text>
          ))}
      </svg>
      <Slider.Root
        min={low}
        max={high}
        step={step}
        value={[Math.min(Math.max(value, low), high)]}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        className="absolute inset-x-[10px] top-0 flex h-8 touch-none items-center"
      >
        <Slider.Track className="h-8 w-full" />
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={`${value} g`}
          className="block h-8 w-7 cursor-grab"
        >
          <svg aria-hidden="true" viewBox="0 0 28 32" className="h-8 w-7">
            <path d="M5 3h18v7l-9 10-9-10z" className="fill-yolk stroke-ink" strokeWidth={1.5} />
          </svg>
        </Slider.Thumb>
      </Slider.Root>
    </div>
  );
}

import { Slider } from "radix-ui";

interface RulerSliderProps {
  label: string;
  unit: string;
  range: [number, number];
  step: number;
  value: number;
  onChange: (value: number) => void;
}

/** How far apart the numbered marks are, so that three to seven stand on the ruler. */
function numberedEvery(span: number): number {
  const round = [1, 2, 5, 10, 20, 50, 100, 200];
  return round.find((every) => span / every <= 6) ?? 500;
}

/** A figure set by dragging a mark along a ruler; arrows move it by a step. */
export function RulerSlider(props: RulerSliderProps) {
  const { label, unit, step, value, onChange } = props;
  const [low, high] = props.range;
  const numbered = numberedEvery(high - low);
  const small = numbered / 10;
  const marks = Array.from(
    { length: Math.round((high - low) / small) + 1 },
    (_, n) => Math.round((low + n * small) * 1000) / 1000,
  );
  const isNumbered = (at: number) => Math.abs(at / numbered - Math.round(at / numbered)) < 1e-6;
  const at = (figure: number) => ((figure - low) / (high - low)) * 220 + 10;
  return (
    <div className="relative mt-2 h-13 w-60">
      <svg aria-hidden="true" viewBox="0 0 240 52" className="absolute inset-0 overflow-visible">
        <line x1={10} x2={230} y1={20} y2={20} className="stroke-ink" strokeWidth={1.5} />
        {marks.map((mark) => (
          <line
            key={mark}
            x1={at(mark)}
            x2={at(mark)}
            y1={20}
            y2={isNumbered(mark) ? 32 : 26}
            className="stroke-ink"
          />
        ))}
        {marks.filter(isNumbered).map((mark) => (
          <text
            key={mark}
            x={at(mark)}
            y={46}
            textAnchor="middle"
            fontSize={14}
            className="fill-ink"
          >
            {mark}
          </text>
        ))}
      </svg>
      <Slider.Root
        min={low}
        max={high}
        step={step}
        value={[Math.min(Math.max(value, low), high)]}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        // The mark is 28 px wide and stays within: its middle runs from 10 to 230.
        className="absolute inset-x-[-4px] top-0 flex h-8 touch-none items-center"
      >
        <Slider.Track className="h-8 w-full" />
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={`${Math.round(value * 10) / 10} ${unit}`}
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

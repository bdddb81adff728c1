import { Slider } from "radix-ui";
import { roundStep } from "../logic/marks";
import { figureOf, type Measure, measureOf, scaleOf } from "../logic/measures";

interface RulerSliderProps {
  label: string;
  measure?: Measure;
  unit?: string;
  range: [number, number];
  step: number;
  value: number;
  onChange: (value: number) => void;
}

const ROUNDING = 1e6;
const exact = (figure: number) => Math.round(figure * ROUNDING) / ROUNDING;

/** A figure set by dragging a mark along a ruler; arrows move it by a step. */
export function RulerSlider(props: RulerSliderProps) {
  const { label, unit, value, onChange } = props;
  const measure = props.measure ?? measureOf(unit);
  const scale = measure && scaleOf(measure);
  const figure = figureOf(measure, unit);
  // The ruler is one of what is read: its ends, steps and marks are round there.
  const read = (kept: number) => (scale ? scale.of(kept) : kept);
  const step = scale ? scale.step(props.step) : props.step;
  const low = exact(Math.round(read(props.range[0]) / step) * step);
  const high = exact(Math.round(read(props.range[1]) / step) * step);
  const numbered = roundStep(measure, props.range[1] - props.range[0], 6);
  const small = numbered / (numbered < 1 ? 4 : 10);
  const first = Math.ceil(low / small - 1e-6);
  const marks = Array.from({ length: Math.floor(high / small + 1e-6) - first + 1 }, (_, n) =>
    exact((first + n) * small),
  );
  const isNumbered = (at: number) => Math.abs(at / numbered - Math.round(at / numbered)) < 1e-6;
  const at = (mark: number) => ((mark - low) / (high - low)) * 220 + 10;
  const number = (mark: number) => (scale ? scale.words(scale.kept(mark)) : mark);
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
            {number(mark)}
          </text>
        ))}
      </svg>
      <Slider.Root
        min={low}
        max={high}
        step={step}
        value={[Math.min(Math.max(read(value), low), high)]}
        onValueChange={([next]) =>
          next !== undefined && onChange(scale ? exact(scale.kept(next)) : next)
        }
        // The mark is 28 px wide and stays within: its middle runs from 10 to 230.
        className="absolute inset-x-[-4px] top-0 flex h-8 touch-none items-center"
      >
        <Slider.Track className="h-8 w-full" />
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={`${figure.shown(value)} ${figure.unit ?? ""}`.trim()}
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

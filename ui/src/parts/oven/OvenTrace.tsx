import type { Schemas } from "../../api/client";
import { degrees, dial } from "../../logic/format";
import { axisMarks } from "../../logic/marks";
import { useWidth } from "../useWidth";

type Watch = Schemas["WatchOut"];

const HEIGHT = 190;
const LEFT = 62;
const RIGHT = 104;
const TOP = 12;
const BOTTOM = 28;
const STEPS_MIN = [2, 5, 10, 20, 30, 60, 120];

/** The thermometer's trace, with the dial's setting and the real mean. */
export function OvenTrace({ watch }: { watch: Watch }) {
  const [figure, width] = useWidth<HTMLElement>(620);
  const trace = watch.trace;
  const last = trace.at(-1);
  if (!last || trace.length < 2) {
    return <p className="py-4 text-soft">The trace begins in some seconds.</p>;
  }
  const long = Math.max(last.minute, 5);
  const all = [...trace.map((s) => s.celsius), watch.dial_c];
  const low = Math.floor((Math.min(...all) - 5) / 20) * 20;
  const high = Math.ceil((Math.max(...all) + 5) / 20) * 20;
  const x = (minute: number) => LEFT + (minute / long) * (width - LEFT - RIGHT);
  const y = (c: number) => TOP + ((high - c) / (high - low)) * (HEIGHT - TOP - BOTTOM);
  const marks = axisMarks("temperature", low, high, 7);
  const every = STEPS_MIN.find((m) => long / m <= 7) ?? 240;
  const minutes = Array.from({ length: Math.floor(long / every) + 1 }, (_, n) => n * every);
  const mean = watch.reading?.mean_c;
  const apart = mean !== undefined && Math.abs(y(mean) - y(watch.dial_c)) < 18;
  const meanLower = mean !== undefined && mean < watch.dial_c;
  return (
    <figure ref={figure} className="min-w-0">
      <svg
        role="img"
        aria-label={`The oven over ${Math.round(last.minute)} minutes: now ${degrees(last.celsius)}, the dial at ${dial(watch.dial_c)}${mean === undefined ? "" : `, in the mean ${degrees(mean)}`}.`}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        className="w-full"
      >
        {marks.map((c) => (
          <g key={c}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(c)} y2={y(c)} className="stroke-line" />
            <text x={LEFT - 8} y={y(c) + 5} textAnchor="end" fontSize={14} className="fill-ink">
              {degrees(c)}
            </text>
          </g>
        ))}
        {minutes.map((m) => (
          <text
            key={m}
            x={x(m)}
            y={HEIGHT - 8}
            textAnchor="middle"
            fontSize={14}
            className="fill-ink"
          >
            {m} min
          </text>
        ))}
        <line
          x1={LEFT}
          x2={width - RIGHT}
          y1={y(watch.dial_c)}
          y2={y(watch.dial_c)}
          strokeDasharray="6 4"
          className="stroke-ink"
        />
        <text
          x={width - RIGHT + 6}
          y={y(watch.dial_c) + (apart ? (meanLower ? -3 : 14) : 5)}
          fontSize={14}
          className="fill-ink"
        >
          dial {dial(watch.dial_c)}
        </text>
        {mean !== undefined && (
          <>
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={y(mean)}
              y2={y(mean)}
              strokeWidth={2}
              className="stroke-enamel"
            />
            <text
              x={width - RIGHT + 6}
              y={y(mean) + (apart ? (meanLower ? 14 : -3) : 5)}
              fontSize={14}
              fontWeight={700}
              className="fill-enamel"
            >
              mean {degrees(mean)}
            </text>
          </>
        )}
        <polyline
          points={trace
            .map((s) => `${x(s.minute).toFixed(1)},${y(s.celsius).toFixed(1)}`)
            .join(" ")}
          fill="none"
          strokeWidth={2}
          className="stroke-ink"
        />
      </svg>
    </figure>
  );
}

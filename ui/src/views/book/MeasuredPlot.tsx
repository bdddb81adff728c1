import type { Bake } from "../../api/client";
import { date, rulerUnit, span, spanFigure } from "../../logic/format";
import { axisMarks } from "../../logic/marks";
import { Term } from "../../parts/Term";
import { useWidth } from "../../parts/useWidth";

const HEIGHT = 250;
const LEFT = 52;
const RIGHT = 20;
const TOP = 14;
const BOTTOM = 40;

/** Measured against foreseen: each bake's band as foreseen then, and the dot that was measured. */
export function MeasuredPlot({ bakes }: { bakes: Bake[] }) {
  const [figure, width] = useWidth<HTMLElement>(760);
  const shown = bakes
    .filter((bake) => bake.mean_mm !== null)
    .slice(0, width < 500 ? 6 : 14)
    .reverse();
  if (shown.length === 0) return null;
  const figures = shown.flatMap((b) => [b.low_mm, b.high_mm, b.mean_mm ?? b.foreseen_mm]);
  const low = Math.floor((Math.min(...figures) - 1) / 5) * 5;
  const high = Math.ceil((Math.max(...figures) + 1) / 5) * 5;
  const y = (mm: number) => TOP + ((high - mm) / (high - low)) * (HEIGHT - TOP - BOTTOM);
  const step = (width - LEFT - RIGHT) / shown.length;
  const x = (n: number) => LEFT + (n + 0.5) * step;
  const last = shown.at(-1);
  // Of marks finer than a width is told no two bear the same figure.
  const marks = axisMarks("length", low, high, 12).filter(
    (mm, n, all) => n === 0 || spanFigure(mm) !== spanFigure(all[n - 1] ?? 0),
  );
  return (
    <figure ref={figure} className="min-w-0">
      <h2 className="heading">
        Measured beside foreseen
        <span className="text-[0.9375rem] font-normal text-soft">{rulerUnit()} across</span>
      </h2>
      <svg
        role="img"
        aria-label={`${shown.length} bakes measured. The last: ${span(last?.mean_mm ?? 0)} measured, ${span(last?.foreseen_mm ?? 0)} foreseen.`}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        className="mt-2 w-full"
      >
        {marks.map((mm) => (
          <g key={mm}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(mm)} y2={y(mm)} className="stroke-line" />
            <text x={LEFT - 8} y={y(mm) + 5} textAnchor="end" fontSize={14} className="fill-ink">
              {spanFigure(mm)}
            </text>
          </g>
        ))}
        {shown.map((bake, n) => (
          <g key={bake.id} opacity={bake.set_aside ? 0.45 : 1}>
            <rect
              x={x(n) - 14}
              y={y(bake.high_mm)}
              width={28}
              height={y(bake.low_mm) - y(bake.high_mm)}
              className="fill-enamel/20"
            />
            <line
              x1={x(n) - 14}
              x2={x(n) + 14}
              y1={y(bake.foreseen_mm)}
              y2={y(bake.foreseen_mm)}
              className="stroke-enamel"
              strokeWidth={2}
            />
            {[...new Set(bake.widths_mm)].map((mm) => (
              <circle
                key={mm}
                cx={x(n)}
                cy={y(mm)}
                r={2.5}
                className="fill-soft"
                opacity={mm >= low && mm <= high ? 1 : 0}
              />
            ))}
            <circle
              cx={x(n)}
              cy={y(bake.mean_mm ?? 0)}
              r={6}
              className="fill-ink stroke-sheet"
              strokeWidth={1.5}
            />
            <text x={x(n)} y={HEIGHT - 16} textAnchor="middle" fontSize={14} className="fill-ink">
              {date(bake.baked_at)}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="text-[0.9375rem] text-soft">
        Line and band: foreseen at the time, <Term of="band">eight in ten</Term>. Large dot: mean of
        the measured pieces.
      </figcaption>
    </figure>
  );
}

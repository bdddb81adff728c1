import type { Bake } from "../../api/client";
import { date, signed } from "../../logic/format";
import { useWidth } from "../../parts/useWidth";

const HEIGHT = 220;
const LEFT = 58;
const RIGHT = 16;
const TOP = 12;
const BOTTOM = 34;
const MOST = 30;

interface Dot {
  bake: Bake;
  off: number;
  low: number;
  high: number;
}

/** The drift of this kitchen's oven: every dough's bakes, measured over foreseen, in time. */
export function DriftPlot({ bakes, names }: { bakes: Bake[]; names: ReadonlyMap<number, string> }) {
  const [figure, width] = useWidth<HTMLElement>(760);
  const dots: Dot[] = bakes
    .filter(
      (bake) => bake.mean_mm !== null && !bake.cut && !bake.set_aside && bake.counts !== "out",
    )
    .slice(0, MOST)
    .reverse()
    .map((bake) => ({
      bake,
      off: 100 * ((bake.mean_mm ?? 0) / bake.foreseen_mm - 1),
      low: 100 * (bake.low_mm / bake.foreseen_mm - 1),
      high: 100 * (bake.high_mm / bake.foreseen_mm - 1),
    }));
  if (dots.length < 2) return null;
  const letters = new Map(
    [...new Set(dots.map((d) => d.bake.dough_id))].map((id, n) => [
      id,
      String.fromCharCode(65 + n),
    ]),
  );
  const most = Math.max(4, ...dots.flatMap((d) => [Math.abs(d.off), d.high, -d.low]));
  const half = Math.ceil(most / 2) * 2;
  const y = (pct: number) => TOP + ((half - pct) / (2 * half)) * (HEIGHT - TOP - BOTTOM);
  const step = (width - LEFT - RIGHT) / dots.length;
  const x = (n: number) => LEFT + (n + 0.5) * step;
  const last = dots.at(-1);
  const dates = Math.ceil((64 * dots.length) / (width - LEFT - RIGHT));
  return (
    <figure ref={figure} className="min-w-0">
      <h2 className="heading">
        The drift, all doughs
        <span className="text-[0.9375rem] font-normal text-soft">
          measured over foreseen, in percent
        </span>
      </h2>
      <svg
        role="img"
        aria-label={`${dots.length} bakes of ${letters.size} doughs; the last came out ${signed(last?.off ?? 0)} % from what was foreseen.`}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        className="mt-2 w-full"
      >
        {[half, half / 2, 0, -half / 2, -half].map((pct) => (
          <g key={pct}>
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={y(pct)}
              y2={y(pct)}
              className={pct === 0 ? "stroke-ink" : "stroke-line"}
            />
            <text x={LEFT - 8} y={y(pct) + 5} textAnchor="end" fontSize={14} className="fill-ink">
              {pct === 0 ? "0" : signed(pct, 0)} %
            </text>
          </g>
        ))}
        {dots.map(({ bake, off, low, high }, n) => (
          <g key={bake.id}>
            <rect
              x={x(n) - 9}
              y={y(high)}
              width={18}
              height={y(low) - y(high)}
              className="fill-enamel/20"
            />
            <circle cx={x(n)} cy={y(off)} r={9} className="fill-ink" />
            <text
              x={x(n)}
              y={y(off) + 4.5}
              textAnchor="middle"
              fontSize={13}
              fontWeight={700}
              className="fill-paper"
            >
              {letters.get(bake.dough_id)}
            </text>
            {n % dates === 0 && (
              <text x={x(n)} y={HEIGHT - 12} textAnchor="middle" fontSize={14} className="fill-ink">
                {date(bake.baked_at)}
              </text>
            )}
          </g>
        ))}
      </svg>
      <figcaption className="text-[0.9375rem] text-soft">
        Band: foreseen at the time, eight in ten; it narrows as the book fills.{" "}
        {[...letters]
          .map(([id, letter]) => `${letter} ${names.get(id) ?? "a dough that is gone"}`)
          .join(", ")}
        .
      </figcaption>
    </figure>
  );
}

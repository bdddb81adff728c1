import type { Tray } from "../../api/client";
import { signed } from "../../app/format";

const MOST_SHOWN = 8;

/** What moves the width most, in millimetres either way, largest first. */
export function Movers({ tray }: { tray: Tray }) {
  const movers = tray.width.movers.filter((m) => Math.abs(m.mm) >= 0.05).slice(0, MOST_SHOWN);
  const most = Math.max(1, ...movers.map((m) => Math.abs(m.mm)));
  return (
    <section aria-label="What moves it">
      <h2 className="heading">
        What moves it <span className="text-[0.9375rem] font-normal text-soft">mm of width</span>
      </h2>
      <ul className="mt-2">
        {movers.map((mover) => (
          <li
            key={mover.key}
            data-mover={mover.key}
            className="grid grid-cols-[8.5rem_1fr_3.25rem] items-center gap-2 py-0.5"
          >
            <span className="leading-tight">{mover.label}</span>
            <svg
              aria-hidden="true"
              viewBox="-50 0 100 10"
              preserveAspectRatio="none"
              className="h-4 w-full"
            >
              <rect
                x={mover.mm < 0 ? (50 * mover.mm) / most : 0}
                y={1}
                width={(50 * Math.abs(mover.mm)) / most}
                height={8}
                className={mover.mm < 0 ? "fill-enamel/45" : "fill-enamel"}
              />
              <line
                x1={0}
                x2={0}
                y1={0}
                y2={10}
                className="stroke-ink"
                vectorEffect="non-scaling-stroke"
              />
            </svg>
            <strong className="text-right">{signed(mover.mm)}</strong>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[0.9375rem] text-soft">
        Against a plain butter dough at room temperature, on parchment, in an oven at 180 °C.
      </p>
    </section>
  );
}

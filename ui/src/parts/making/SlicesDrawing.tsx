import type { Schemas, Tray } from "../../api/client";
import { fineAsSet, mass, span, spanBy } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { Dimension, Ruler } from "../Ruler";

/** The baked log from above with its slices and lost ends, and the slices laid out to dry. */
export function SlicesDrawing({
  making,
  piece,
  tray,
}: {
  making: Schemas["SlicesDried"];
  piece: PieceOf<"twice_baked">;
  tray: Tray;
}) {
  const { log_mm: long } = making;
  const wide = tray.width.middle_mm;
  const { first_mm: first, slant_mm: slant } = making;
  const said = `Cut each log, ${spanBy(long, wide)} baked, into ${making.per_log} slices of ${fineAsSet(piece.slice_mm)}${piece.lean_deg ? `, leaning ${piece.lean_deg}°` : ", straight across"}: each ${span(making.face_mm)} long, ${mass(making.slice_g)} before it dries. The two ends, ${mass(making.lost_g)}, are the baker's.`;
  return (
    <figure className="min-w-0">
      <svg
        role="img"
        aria-label={said}
        viewBox={`-42 -36 ${long + 114} ${wide + 76}`}
        className="max-h-[14rem] w-full"
      >
        <Ruler length={long} />
        <Ruler length={wide} down />
        <rect
          width={long}
          height={wide}
          rx={wide * 0.3}
          className="fill-blond stroke-amber"
          strokeWidth={1.2}
        />
        {Array.from({ length: making.per_log + 1 }, (_, n) => first + n * making.step_mm).map(
          (x) => (
            <line
              key={x}
              x1={x + slant}
              x2={x}
              y1={0}
              y2={wide}
              className="stroke-dark"
              strokeWidth={0.9}
            />
          ),
        )}
        <Dimension from={[0, wide + 16]} to={[long, wide + 16]} text={span(long)} />
        <Dimension from={[long + 8, 0]} to={[long + 8, wide]} text={span(wide)} />
      </svg>
      <figcaption>
        <p className="text-lg">{said}</p>
        {tray.second && <Drying second={tray.second} tray={tray} />}
        <p className="mt-1 text-[0.9375rem] text-caution">
          Let the log cool ten minutes, or till cold; hold it with a cloth, and draw a serrated
          knife without pressing.
        </p>
      </figcaption>
    </figure>
  );
}

function Drying({ second, tray }: { second: Schemas["SecondOut"]; tray: Tray }) {
  const layout = second.layouts[0];
  if (!layout) return null;
  const { sheet_width_mm: width, sheet_depth_mm: depth } = tray.kitchen;
  const { across_mm, down_mm } = second.footprint;
  const [a, d] = layout.turned ? [down_mm, across_mm] : [across_mm, down_mm];
  const said = `Lay them flat on ${second.trays.length === 1 ? "one sheet" : `${second.trays.length} sheets`}, ${second.trays.join(" and ")} on each, and dry them ${second.whole_minutes} minutes${second.turn_after ? `, turned over after ${second.turn_after}` : ""}.`;
  return (
    <div className="mt-2 grid grid-cols-[minmax(0,1fr)_14rem] items-center gap-4 max-sm:grid-cols-1">
      <p className="text-lg">{said}</p>
      <svg role="img" aria-label={said} viewBox={`-2 -2 ${width + 4} ${depth + 4}`}>
        <rect
          width={width}
          height={depth}
          rx={6}
          className="fill-sheet stroke-ink"
          strokeWidth={2}
        />
        {layout.centres.map(({ x, y }) => (
          <rect
            key={`${x} ${y}`}
            x={x - a / 2}
            y={y - d / 2}
            width={a}
            height={d}
            rx={4}
            className="fill-blond stroke-amber"
            strokeWidth={1.2}
          />
        ))}
      </svg>
    </div>
  );
}

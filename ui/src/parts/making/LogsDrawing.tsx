import type { Schemas } from "../../api/client";
import { fineAsSet, mass, span } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { Dimension, Ruler } from "../Ruler";

/** The chilled logs to scale, each slice marked, the trimmed ends shaded. */
export function LogsDrawing({
  making,
  piece,
}: {
  making: Schemas["LogsCut"];
  piece: PieceOf<"sliced">;
}) {
  const long = Math.max(...making.lengths_mm);
  const across = piece.log_diameter_mm;
  const ends = piece.ends_mm ?? 0;
  const shown = making.lengths_mm.slice(0, 5);
  const row = across + 18;
  const logs = making.lengths_mm.length;
  const said = `${logs === 1 ? "One log" : `${logs} logs`} ${span(across)} across and ${span(long)} long; trim ${fineAsSet(ends)} off each end and cut ${making.slices[0] ?? 0} slices of ${fineAsSet(piece.thickness_mm)} from each.`;
  return (
    <figure className="min-w-0">
      <svg
        role="img"
        aria-label={said}
        viewBox={`-42 -36 ${long + 126} ${shown.length * row + 70}`}
        className="max-h-[22rem] w-full"
      >
        <Ruler length={long} />
        <Ruler length={across} down />
        {shown.map((length, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: logs are alike
          <g key={n} transform={`translate(0 ${n * row})`}>
            <rect
              width={length}
              height={across}
              rx={4}
              className="fill-raw stroke-ink"
              strokeWidth={1.2}
            />
            <rect width={ends} height={across} className="fill-amber/40" />
            {Array.from({ length: (making.slices[n] ?? 0) + 1 }, (_, k) => (
              <line
                // biome-ignore lint/suspicious/noArrayIndexKey: cuts have no other name
                key={k}
                x1={ends + k * piece.thickness_mm}
                x2={ends + k * piece.thickness_mm}
                y1={0}
                y2={across}
                className="stroke-dark"
                strokeWidth={0.6}
              />
            ))}
            <rect
              x={ends + (making.slices[n] ?? 0) * piece.thickness_mm}
              width={Math.max(length - ends - (making.slices[n] ?? 0) * piece.thickness_mm, 0)}
              height={across}
              className="fill-amber/40"
            />
          </g>
        ))}
        <Dimension
          from={[0, shown.length * row]}
          to={[long, shown.length * row]}
          text={span(long)}
        />
        <Dimension from={[long + 10, 0]} to={[long + 10, across]} text={span(across)} />
      </svg>
      <figcaption>
        <p className="text-lg">{said}</p>
        <p className="mt-1 text-[0.9375rem] text-soft">
          {mass(making.ends_g)} are trimmed and {mass(making.rest_g)} are less than a slice
          (shaded): bake them as they are, or press them into the next log. Roll the log even from
          end to end; turn it now and then as it chills, so that it stays round.
        </p>
      </figcaption>
    </figure>
  );
}

import type { Schemas } from "../../api/client";
import { fine, mass, span, spanBy } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { Dimension, Ruler } from "../../parts/Ruler";

/** The rope to roll, and the piece that it makes, baked, both to scale. */
export function RopeDrawing({
  making,
  piece,
}: {
  making: Schemas["RopeBaked"];
  piece: PieceOf<"rope">;
}) {
  const { rope_mm: thick, across_mm: wide, down_mm: tall, hole_mm: hole } = making;
  const reach = Math.max(piece.length_mm, wide);
  const size =
    piece.form === "ring" && hole !== null
      ? `a ring ${span(wide)} across with a hole of ${span(hole)}`
      : piece.form === "twist"
        ? `a twist ${spanBy(wide, tall)}`
        : `a stick ${spanBy(wide, tall)}`;
  const said = `Roll each ${mass(piece.grams)} to a rope ${span(piece.length_mm)} long and ${fine(thick, 0)} thick; it bakes to ${size}.`;
  const below = thick + 50;
  return (
    <figure className="min-w-0">
      <svg
        role="img"
        aria-label={said}
        viewBox={`-20 -36 ${reach + 90} ${below + tall + 72}`}
        className="max-h-[20rem] w-full"
      >
        <Ruler length={reach} />
        <rect
          width={piece.length_mm}
          height={thick}
          rx={thick / 2}
          className="fill-raw stroke-dark"
          strokeDasharray="4 3"
        />
        <Dimension
          from={[0, thick + 14]}
          to={[piece.length_mm, thick + 14]}
          text={`${span(piece.length_mm)} raw`}
        />
        <g transform={`translate(0 ${below})`}>
          {hole !== null ? (
            <circle
              cx={wide / 2}
              cy={tall / 2}
              r={(wide + hole) / 4}
              fill="none"
              className="stroke-blond"
              strokeWidth={(wide - hole) / 2}
            />
          ) : (
            <rect
              width={wide}
              height={tall}
              rx={tall / 2}
              className="fill-blond stroke-amber"
              strokeWidth={1.2}
            />
          )}
          <Dimension from={[0, tall + 14]} to={[wide, tall + 14]} text={`${span(wide)} baked`} />
        </g>
      </svg>
      <figcaption className="text-lg">{said}</figcaption>
    </figure>
  );
}

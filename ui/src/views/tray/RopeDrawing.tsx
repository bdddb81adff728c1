import type { Schemas } from "../../api/client";
import { cm } from "../../logic/format";
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
  const span = Math.max(piece.length_mm, wide);
  const size =
    piece.form === "ring" && hole !== null
      ? `a ring ${cm(wide)} cm across with a hole of ${cm(hole)} cm`
      : piece.form === "twist"
        ? `a twist ${cm(wide)} by ${cm(tall)} cm`
        : `a stick ${cm(wide)} by ${cm(tall)} cm`;
  const said = `Roll each ${piece.grams} g to a rope ${cm(piece.length_mm)} cm long and ${thick.toFixed(0)} mm thick; it bakes to ${size}.`;
  const below = thick + 50;
  return (
    <figure className="min-w-0">
      <svg
        role="img"
        aria-label={said}
        viewBox={`-20 -36 ${span + 90} ${below + tall + 72}`}
        className="max-h-[20rem] w-full"
      >
        <Ruler length={span} />
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
          text={`${cm(piece.length_mm)} cm raw`}
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
          <Dimension from={[0, tall + 14]} to={[wide, tall + 14]} text={`${cm(wide)} cm baked`} />
        </g>
      </svg>
      <figcaption className="text-lg">{said}</figcaption>
    </figure>
  );
}

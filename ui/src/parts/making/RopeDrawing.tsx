import type { Schemas } from "../../api/client";
import { fine, mass, span, spanBy } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { Dimension, Ruler } from "../Ruler";

type RopeBaked = Schemas["RopeBaked"];

interface RopeDrawingProps {
  making: RopeBaked;
  piece: PieceOf<"rope">;
}

const SAID: Record<PieceOf<"rope">["form"], string> = {
  straight: "a stick",
  ring: "a ring",
  twist: "a twist of its two halves",
  spiral: "a spiral, wound from the middle",
  bow: "a bow of two loops",
  s: "an S",
  crossed: "a loop with crossed ends",
};
const GAP = 34;

/** The rope to roll, how it is bent, and the piece that it makes, baked: all to scale. */
export function RopeDrawing({ making, piece }: RopeDrawingProps) {
  const { rope_mm: thick, across_mm: wide, down_mm: tall, hole_mm: hole } = making;
  const half = boxOf(making.half, thick);
  const bent = piece.form !== "straight";
  const shapes = bent ? half.across + GAP + wide : wide;
  const reach = Math.max(piece.length_mm, shapes);
  const size =
    hole === null ? spanBy(wide, tall) : `${span(wide)} across with a hole of ${span(hole)}`;
  const said = `Roll each ${mass(piece.grams)} to a rope ${span(piece.length_mm)} long and ${fine(thick, 0)} thick; it bakes to ${SAID[piece.form]}, ${size}.`;
  const below = thick + 50;
  return (
    <figure className="min-w-0">
      <svg
        role="img"
        aria-label={said}
        viewBox={`-20 -36 ${reach + 90} ${below + Math.max(tall, half.down) + 72}`}
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
        {bent && (
          <g transform={`translate(0 ${below})`}>
            <Rope line={making.half} thick={thick} className="stroke-raw" />
          </g>
        )}
        <g transform={`translate(${bent ? half.across + GAP : 0} ${below})`}>
          <g
            transform={`translate(${(making.baked_mm - thick) / 2} ${(making.baked_mm - thick) / 2})`}
          >
            <Rope line={making.line} thick={making.baked_mm} className="stroke-blond" />
          </g>
          <Dimension from={[0, tall + 14]} to={[wide, tall + 14]} text={`${span(wide)} baked`} />
        </g>
      </svg>
      <figcaption className="text-lg">{said}</figcaption>
    </figure>
  );
}

interface RopeProps {
  line: RopeBaked["line"];
  thick: number;
  className: string;
}

/** A rope along its line; its edge shows where it lies over itself. */
function Rope({ line, thick, className }: RopeProps) {
  const points = line.map(({ x, y }) => `${x},${y}`).join(" ");
  return (
    <g fill="none" strokeLinecap="round" strokeLinejoin="round">
      <polyline points={points} className="stroke-amber" strokeWidth={thick} />
      <polyline points={points} className={className} strokeWidth={Math.max(thick - 2.4, 1)} />
      <polyline points={points} className="stroke-amber/60" strokeWidth={0.8} />
    </g>
  );
}

const boxOf = (line: RopeBaked["line"], thick: number) => ({
  across: Math.max(...line.map(({ x }) => x)) + thick / 2,
  down: Math.max(...line.map(({ y }) => y)) + thick / 2,
});

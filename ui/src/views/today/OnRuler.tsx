import type { Schemas } from "../../api/client";
import { span } from "../../logic/format";
import { rulerMarks } from "../../logic/marks";
import { outlineOf } from "../../parts/SideView";

type Piece = Schemas["FromTheSide"];

const COLUMN = 270;
const [ABOVE, BELOW, LEFT] = [30, 14, 10];
const USUAL = { width_mm: 70, height_mm: 20 };
/** What is wider, a whole pan, is cut off at the end of its stretch. */
const WIDEST_MM = 110;

/** A list of pieces, each on its stretch of one ruler. */
export const ON_RULER = "mt-2 grid grid-cols-[repeat(auto-fill,minmax(16.9rem,1fr))] gap-y-4";

/** Pixels to a millimetre, and the highest piece in mm. */
interface Scale {
  px: number;
  high: number;
}

/** One scale for all of them. */
export function scaleOf(all: readonly { piece: Piece | null }[]): Scale {
  const pieces = all.map(({ piece }) => piece ?? USUAL);
  const wide = Math.min(WIDEST_MM, Math.max(...pieces.map((piece) => piece.width_mm)));
  const high = Math.max(...pieces.map((piece) => piece.height_mm));
  return { px: Math.min(2.7, (COLUMN - 3 * LEFT) / wide, 120 / high), high };
}

interface OnRulerProps {
  piece: Piece | null;
  scale: Scale;
}

/** A piece on its stretch of the ruler, whose zero is at the piece's left edge. */
export function OnRuler({ piece, scale: { px, high } }: OnRulerProps) {
  const ground = ABOVE + high * px;
  const width = (piece?.width_mm ?? 0) * px;
  const top = ground - (piece?.height_mm ?? 0) * px;
  const text = piece ? span(piece.width_mm) : "";
  return (
    <svg
      role="img"
      aria-label={
        piece
          ? `${text} wide and ${span(piece.height_mm)} high, ${piece.measured ? "as it was measured" : "as it is foreseen"}`
          : "No piece can be foreseen yet."
      }
      height={ground + BELOW}
      className="w-full overflow-hidden"
    >
      <line x1={0} x2={2000} y1={ground} y2={ground} className="stroke-ink" strokeWidth={1.2} />
      {rulerMarks(300, "fine").map(({ mm, number }) => (
        <line
          key={mm}
          x1={LEFT + mm * px}
          x2={LEFT + mm * px}
          y1={ground}
          y2={ground + (number === null ? 5 : 9)}
          className="stroke-ink"
        />
      ))}
      {piece && (
        <>
          <path
            transform={`translate(${LEFT + width / 2} ${ground})`}
            d={outlineOf(piece.flat, width, piece.height_mm * px)}
            className={piece.measured ? "fill-blond stroke-amber" : "fill-none stroke-amber"}
            strokeWidth={1.5}
            strokeDasharray={piece.measured ? undefined : "5 3"}
          />
          <line
            x1={LEFT}
            x2={LEFT + width}
            y1={top - 9}
            y2={top - 9}
            className="stroke-enamel"
            strokeWidth={1.3}
          />
          <text
            x={LEFT + width / 2}
            y={top - 15}
            textAnchor="middle"
            fontSize={16}
            fontWeight={650}
            className="fill-enamel"
          >
            {text}
          </text>
        </>
      )}
    </svg>
  );
}

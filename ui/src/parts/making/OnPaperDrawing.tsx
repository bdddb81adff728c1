import type { Schemas } from "../../api/client";
import { fineAsSet, mass, spanBy } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { Scores } from "./Scores";
import { ToScale } from "./ToScale";

interface OnPaperDrawingProps {
  making: Schemas["SlabsScored"];
  piece: PieceOf<"slab">;
}

/** The slab as it is rolled, what is trimmed off, and its scores. */
export function OnPaperDrawing({ making, piece }: OnPaperDrawingProps) {
  const { across: wide, down: tall } = making.rolled_mm;
  const { across, down } = making.slab_mm;
  const edge = (wide - across) / 2;
  const slabs = making.slabs === 1 ? "all of it" : `${making.slabs} slabs, each`;
  const trimmed = edge > 0 ? ` Trim ${fineAsSet(edge)} off each side.` : "";
  const said = `Roll ${slabs} to ${spanBy(wide, tall)}, ${fineAsSet(piece.thickness_mm)} thick, ${mass(making.rolled_g)} of dough.${trimmed} Score ${making.pieces} pieces of ${spanBy(making.across_mm, making.down_mm)}.`;
  return (
    <figure className="min-w-0">
      <ToScale said={said} wide={wide} tall={tall}>
        {edge > 0 && (
          <rect
            width={wide}
            height={tall}
            className="fill-raw/40 stroke-ink"
            strokeWidth={0.9}
            strokeDasharray="2 3"
          />
        )}
        <g transform={`translate(${edge} ${edge})`}>
          <Scores
            wide={across}
            tall={down}
            across={piece.scored_across ?? 1}
            down={piece.scored_down ?? 1}
          />
        </g>
      </ToScale>
      <figcaption>
        <p className="text-lg">{said}</p>
        {making.trimmed_g > 0 && (
          <p className="mt-1 text-[0.9375rem] text-soft">
            {mass(making.trimmed_g)} of trimmings a slab: knead them into the next, or bake them
            beside it.
          </p>
        )}
      </figcaption>
    </figure>
  );
}

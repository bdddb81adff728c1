import type { Schemas, Tray } from "../../api/client";
import { fineAsSet, mass, span, spanBy } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { DrawnHandle, type Handled } from "../DrawnHandle";
import { HandledDrawing } from "../HandledDrawing";
import { Dimension, Ruler } from "../Ruler";
import { Outline } from "./Outline";

type RolledOut = Schemas["RolledOut"];

interface SlabDrawingProps {
  making: RolledOut;
  piece: PieceOf<"rolled">;
  tray: Tray;
  /** The cutter's width, dragged at the first cut. */
  across?: Handled | undefined;
}

/** The slab to roll each part to, with its cuts; and the scraps, pass by pass. */
export function SlabDrawing({ making, piece, tray: { lies }, across }: SlabDrawingProps) {
  const first = making.passes[0];
  if (!first) return null;
  const { slab } = first;
  // A cut that lies as its cutter is drawn; its left edge stays while the right one is dragged.
  const corner = slab.cuts.find((_, n) => (slab.turns[n] ?? 0) === 0);
  const [left, right, top, bottom] = [42, 76, 36, 40];
  const said = `Roll ${each(first.slabs)} to ${spanBy(slab.across_mm, slab.down_mm)}, ${fineAsSet(piece.thickness_mm)} thick: ${slab.cuts.length} pieces each, in rows of ${slab.rows.join(", ")}.`;
  return (
    <figure className="min-w-0">
      <HandledDrawing
        said={said}
        viewBox={`${-left} ${-top} ${slab.across_mm + left + right} ${slab.down_mm + top + bottom}`}
        className="max-h-[22rem] w-full"
        handles={
          across &&
          corner && (
            <DrawnHandle
              handled={across}
              at={[corner.x + lies.raw_mm.across / 2, corner.y]}
              along="x"
              valueAt={(place) => place - corner.x + lies.raw_mm.across / 2}
              size={36}
            />
          )
        }
      >
        <Ruler length={slab.across_mm} />
        <Ruler length={slab.down_mm} down />
        <rect
          width={slab.across_mm}
          height={slab.down_mm}
          className="fill-raw stroke-ink"
          strokeWidth={1.4}
        />
        {slab.cuts.map(({ x, y }, n) => (
          <g key={`${x} ${y}`} transform={`translate(${x} ${y}) rotate(${slab.turns[n] ?? 0})`}>
            <Outline
              lies={lies}
              size={lies.raw_mm}
              className="fill-sheet/50 stroke-dark"
              strokeWidth={0.9}
            />
          </g>
        ))}
        <Dimension
          from={[0, slab.down_mm + 16]}
          to={[slab.across_mm, slab.down_mm + 16]}
          text={span(slab.across_mm)}
        />
        <Dimension
          from={[slab.across_mm + 10, 0]}
          to={[slab.across_mm + 10, slab.down_mm]}
          text={span(slab.down_mm)}
        />
      </HandledDrawing>
      <figcaption>
        <p className="text-lg">{said}</p>
        <ol className="mt-2" aria-label="Passes">
          {making.passes.map((pass, n) => (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: passes have no other name
              key={n}
              className="flex flex-wrap justify-between gap-x-4 border-t border-line py-1"
            >
              <span>
                {n === 0 ? "First rolling" : `Scraps, ${ordinal(n)} time`}: {pass.slabs} ×{" "}
                {spanBy(pass.slab.across_mm, pass.slab.down_mm)}
              </span>
              <span>
                <strong>{pass.pieces}</strong> pieces, {mass(pass.rest_g)} of scraps
              </span>
            </li>
          ))}
        </ol>
        <p className="mt-1 text-[0.9375rem] text-soft">
          {making.flour_g > 0
            ? `The bench gives it ${mass(making.flour_g)} of flour in all; each pass is a little tougher. `
            : "Between papers it takes up no flour. "}
          {mass(making.rest_g)} stay at the end:{" "}
          {making.limited
            ? "they would give more, but scraps are not rolled oftener than you allow."
            : "under two pieces, or too little for the cutter."}
        </p>
      </figcaption>
    </figure>
  );
}

const each = (slabs: number) => (slabs === 1 ? "it" : `each of ${slabs} parts`);
const ordinal = (n: number) => ["", "first", "second", "third", "fourth"][n] ?? `${n}th`;

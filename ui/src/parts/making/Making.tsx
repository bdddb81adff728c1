import type { Tray } from "../../api/client";
import { mass } from "../../logic/format";
import type { Piece } from "../../logic/pieces";
import type { Handled } from "../DrawnHandle";
import { LogsDrawing } from "./LogsDrawing";
import { OnPaperDrawing } from "./OnPaperDrawing";
import { OtherPans, PanDrawing } from "./PanDrawing";
import { RopeDrawing } from "./RopeDrawing";
import { SlabDrawing } from "./SlabDrawing";
import { SlicesDrawing } from "./SlicesDrawing";

interface AllMakingProps {
  tray: Tray;
  piece: Piece;
  /** The width that is dragged in a drawing, where it is set there. */
  across?: Handled | undefined;
}

/** The same of all pieces of a dough, those that differ from the others too. */
export function AllMaking({ tray, piece, across }: AllMakingProps) {
  return (
    <div className="flex flex-col gap-4">
      <Making tray={tray} piece={piece} across={across} />
      {tray.also.map((also) => (
        <section key={also.word} aria-label={`Those that are ${also.word}`}>
          {also.making && (
            <h3 className="heading">
              {also.pieces} {also.word}
            </h3>
          )}
          <Making tray={tray} piece={also.piece} making={also.making} />
        </section>
      ))}
    </div>
  );
}

interface MakingProps {
  tray: Tray;
  piece: Piece;
  /** That of the usual pieces, unless it is another's. */
  making?: Tray["making"];
  across?: Handled | undefined;
}

/** What the kind asks of the baker beside laying pieces out, drawn to scale. */
export function Making({ tray, piece, making = tray.making, across }: MakingProps) {
  // While another kind is being asked for, the old answer does not fit the new piece.
  if (making === null || making.kind !== piece.kind) return null;
  switch (making.kind) {
    case "rolled":
      return piece.kind === "rolled" ? (
        <SlabDrawing making={making} piece={piece} tray={tray} across={across} />
      ) : null;
    case "sliced":
      return piece.kind === "sliced" ? <LogsDrawing making={making} piece={piece} /> : null;
    case "slab":
      return piece.kind === "slab" ? <OnPaperDrawing making={making} piece={piece} /> : null;
    case "pan":
      return piece.kind === "pan" ? (
        <PanDrawing making={making} piece={piece} tray={tray}>
          <OtherPans piece={piece} />
        </PanDrawing>
      ) : null;
    case "filled_pan":
      return piece.kind === "filled_pan" ? (
        <PanDrawing making={making} piece={piece} tray={tray}>
          {mass(tray.yields.leftover_g)} of the dough stay over. What other pans would make of it
          stands under Sizes.
        </PanDrawing>
      ) : null;
    case "rope":
      return piece.kind === "rope" ? <RopeDrawing making={making} piece={piece} /> : null;
    case "twice_baked":
      return piece.kind === "twice_baked" ? (
        <SlicesDrawing making={making} piece={piece} tray={tray} />
      ) : null;
    case "wafer":
      return (
        <p className="text-lg">
          They stay soft for {making.soft_s} s and one takes {making.each_s} s to shape: at most{" "}
          <strong>{making.by_hand} on a tray</strong>. If they set before you reach them, half a
          minute back in the oven softens them again.
        </p>
      );
  }
}

import { useQuery } from "@tanstack/react-query";
import type { Schemas, Tray } from "../../api/client";
import { fineAsSet, mass, spanBy } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { otherPansQuery } from "../../logic/queries";
import { toolName } from "../../logic/toolNames";
import { Scores } from "./Scores";
import { ToScale } from "./ToScale";

type InPan = PieceOf<"pan"> | PieceOf<"filled_pan">;

interface PanDrawingProps {
  making: Schemas["PansFilled"] | Schemas["DoughShared"];
  piece: InPan;
  tray: Tray;
  /** What is to be said of other pans. */
  children: React.ReactNode;
}

/** The pan from above with its scores, how deep it is filled, and what is said of other pans. */
export function PanDrawing({ making, piece, tray, children }: PanDrawingProps) {
  const { across: wide, down: tall } = tray.lies.raw_mm;
  const count = piece.shape === "round" ? `${making.pieces} wedges` : `${making.pieces} pieces`;
  const said = `${making.pans === 1 ? "One pan" : `${making.pans} pans`} ${spanBy(wide, tall)}, ${mass(making.full_g)} pressed ${fineAsSet(making.deep_mm)} deep in each, scored in ${count} of ${spanBy(making.across_mm, making.down_mm)}.`;
  return (
    <figure className="min-w-0">
      <ToScale said={said} wide={wide} tall={tall}>
        {piece.shape === "round" ? (
          <Wedges piece={piece} />
        ) : (
          <Scores
            wide={wide}
            tall={tall}
            across={piece.scored_across ?? 4}
            down={piece.scored_down ?? 5}
          />
        )}
      </ToScale>
      <figcaption>
        <p className="text-lg">{said}</p>
        <p className="mt-1 text-[0.9375rem]">{children}</p>
      </figcaption>
    </figure>
  );
}

function Wedges({ piece }: { piece: InPan }) {
  const r = piece.across_mm / 2;
  const wedges = piece.wedges ?? 8;
  return (
    <g className="stroke-dark" strokeWidth={0.9}>
      <circle cx={r} cy={r} r={r} className="fill-raw stroke-ink" strokeWidth={1.4} />
      {Array.from({ length: wedges }, (_, n) => (2 * Math.PI * n) / wedges).map((a) => (
        <line
          key={a}
          x1={r}
          y1={r}
          x2={r + r * Math.sin(a)}
          y2={r - r * Math.cos(a)}
          strokeDasharray="5 3"
        />
      ))}
    </g>
  );
}

/** How much dough other pans take to the same depth. */
export function OtherPans({ piece }: { piece: PieceOf<"pan"> }) {
  const others = useQuery(otherPansQuery(piece));
  if (!others.data) return null;
  return (
    <>
      To the same depth:{" "}
      {others.data.map(({ name, factor }, n) => (
        <span key={name}>
          {n > 0 && "; "}
          {toolName(name)} takes × {factor.toFixed(2)}
        </span>
      ))}
      .
    </>
  );
}

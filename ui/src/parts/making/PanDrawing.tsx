import { useQuery } from "@tanstack/react-query";
import type { Schemas, Tray } from "../../api/client";
import { fineAsSet, mass, span, spanBy, spanFigure } from "../../logic/format";
import type { PieceOf } from "../../logic/pieces";
import { otherPansQuery } from "../../logic/queries";
import { toolName } from "../../logic/toolNames";
import { Dimension, Ruler } from "../Ruler";
import { Scores } from "./Scores";

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
      <svg
        role="img"
        aria-label={said}
        viewBox={`-42 -36 ${wide + 100} ${tall + 76}`}
        className="max-h-[20rem] w-full"
      >
        <Ruler length={wide} />
        <Ruler length={tall} down />
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
        <Dimension from={[0, tall + 16]} to={[wide, tall + 16]} text={span(wide)} />
        <Dimension from={[wide + 10, 0]} to={[wide + 10, tall]} text={spanFigure(tall)} />
      </svg>
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

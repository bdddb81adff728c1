import type { Tray } from "../../api/client";
import { cm } from "../../app/format";
import type { Piece } from "./kinds";
import { CutOutline } from "./SlabDrawing";
import type { Placed, PlacedPoint } from "./usePlaced";

interface PieceOnSheetProps {
  tray: Tray;
  piece: Piece;
  point: PlacedPoint;
  turned: boolean;
  placed: Placed;
}

const STEP: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** One piece: its rim, baked and raw; while pieces are moved, a thing to take hold of. */
export function PieceOnSheet({ tray, piece, point, turned, placed }: PieceOnSheetProps) {
  const shape = (
    <g
      transform={`translate(${point.x} ${point.y})${turned && !tray.footprint.is_round ? " rotate(90)" : ""}`}
    >
      <Shape tray={tray} piece={piece} meets={point.meets} />
    </g>
  );
  if (!placed.moving) return shape;
  const drag = (event: React.PointerEvent) => {
    const matrix = placed.svg.current?.getScreenCTM();
    if (!event.currentTarget.hasPointerCapture(event.pointerId) || !matrix) return;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    placed.put(point.place, Math.round(at.x), Math.round(at.y));
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a button has no place inside a drawing
    <g
      role="button"
      tabIndex={0}
      aria-label={`Piece ${point.place + 1}, ${cm(point.x)} cm in, ${cm(point.y)} cm down${point.meets ? ", its rim would meet another" : ""}`}
      className="cursor-grab touch-none outline-none focus-visible:[&_circle]:stroke-enamel focus-visible:[&_circle]:[stroke-width:3]"
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={drag}
      onKeyDown={(event) => {
        const step = STEP[event.key];
        const by = event.shiftKey ? 10 : 1;
        if (step) placed.nudge(point.place, step[0] * by, step[1] * by);
        else if (event.key === "Delete" || event.key === "Backspace") placed.drop(point.place);
        else return;
        event.preventDefault();
      }}
    >
      {shape}
    </g>
  );
}

/** Rim, baked outline and raw outline about the middle of the piece. */
function Shape({ tray, piece, meets }: { tray: Tray; piece: Piece; meets: boolean }) {
  const { raw, width, footprint, making } = tray;
  const rim = meets ? "fill-caution/40" : "fill-amber/30";
  const baked = { className: "fill-blond stroke-amber", strokeWidth: 1.2 };
  const dashed = { strokeDasharray: "2 2", strokeWidth: 0.8 };
  if (piece.kind === "rolled" && piece.cutter.shape !== "round") {
    const by = width.middle_mm / raw.across_mm;
    return (
      <>
        {footprint.is_round ? (
          <circle r={footprint.across_mm / 2} className={rim} />
        ) : (
          <Box across={footprint.across_mm} down={footprint.down_mm} round={8} className={rim} />
        )}
        <g transform={`scale(${by})`}>
          <CutOutline cutter={piece.cutter} x={0} y={0} className={baked.className} />
        </g>
        <g strokeDasharray="2 2">
          <CutOutline cutter={piece.cutter} x={0} y={0} className="fill-none stroke-dark" />
        </g>
      </>
    );
  }
  if (making?.kind === "rope" && making.hole_mm !== null) {
    return (
      <>
        <circle r={footprint.across_mm / 2} className={rim} />
        <circle
          r={(making.across_mm + making.hole_mm) / 4}
          fill="none"
          className="stroke-blond"
          strokeWidth={(making.across_mm - making.hole_mm) / 2}
        />
      </>
    );
  }
  if (raw.length_mm === null) {
    return (
      <>
        <circle r={width.high_mm / 2} className={rim} />
        <circle r={width.middle_mm / 2} {...baked} />
        <circle
          r={raw.across_mm / 2}
          className={raw.flat ? "fill-none stroke-dark" : "fill-raw stroke-dark"}
          {...dashed}
        />
      </>
    );
  }
  const [across, down] =
    making?.kind === "rope"
      ? [making.across_mm, making.down_mm]
      : [raw.length_mm + 0.5 * (width.middle_mm - raw.width_mm), width.middle_mm];
  return (
    <>
      <Box across={footprint.across_mm} down={footprint.down_mm} round={24} className={rim} />
      <Box across={across} down={down} round={24} {...baked} />
      {making?.kind !== "rope" && (
        <Box
          across={raw.length_mm}
          down={raw.width_mm}
          round={20}
          className="fill-raw stroke-dark"
          {...dashed}
        />
      )}
    </>
  );
}

interface BoxProps extends React.SVGProps<SVGRectElement> {
  across: number;
  down: number;
  round: number;
}

function Box({ across, down, round, ...rest }: BoxProps) {
  return (
    <rect
      x={-across / 2}
      y={-down / 2}
      width={across}
      height={down}
      rx={Math.min(round, down / 2)}
      {...rest}
    />
  );
}

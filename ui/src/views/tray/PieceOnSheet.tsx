import type { Tray } from "../../api/client";
import { span } from "../../logic/format";
import { PieceShape } from "../../parts/making/PieceShape";
import type { Placed, PlacedPoint } from "./usePlaced";

interface PieceOnSheetProps {
  tray: Tray;
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
export function PieceOnSheet({ tray, point, turned, placed }: PieceOnSheetProps) {
  const shape = (
    <g
      transform={`translate(${point.x} ${point.y})${turned && !tray.footprint.is_round ? " rotate(90)" : ""}`}
    >
      <PieceShape tray={tray} meets={point.meets} />
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
      aria-label={`Piece ${point.place + 1}, ${span(point.x)} from the left, ${span(point.y)} from the top${point.meets ? ", its rim would meet another" : ""}`}
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

import { useRef } from "react";
import type { Place } from "../../logic/photo";

interface CornerHandleProps {
  label: string;
  /** Where it is in the drawing, and how many of the drawing's units a share of each side is. */
  at: Place;
  scale: Place;
  /** How many of the drawing's units a point of the screen is. */
  unit: number;
  onMove: (to: Place) => void;
}

const PART: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const STEP = 0.001;
const MANY = 10;

/** A corner of the sheet in its photo: dragged there, or moved by the arrows. */
export function CornerHandle({ label, at, scale, unit, onMove }: CornerHandleProps) {
  const from = useRef<{ x: number; y: number; at: Place; units: number } | null>(null);
  const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a button in a drawing
    <g
      role="button"
      tabIndex={0}
      aria-label={`${label}: ${percent(at.x)} across, ${percent(at.y)} down. Arrows move it`}
      className="group cursor-move touch-none outline-none"
      transform={`translate(${at.x * scale.x} ${at.y * scale.y}) scale(${unit})`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        const units = event.currentTarget.ownerSVGElement?.getScreenCTM()?.a ?? 1;
        from.current = { x: event.clientX, y: event.clientY, at, units };
      }}
      onPointerMove={(event) => {
        const start = from.current;
        if (!start || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
        onMove({
          x: start.at.x + (event.clientX - start.x) / start.units / scale.x,
          y: start.at.y + (event.clientY - start.y) / start.units / scale.y,
        });
      }}
      onKeyDown={(event) => {
        const way = PART[event.key];
        if (!way) return;
        const by = STEP * (event.shiftKey ? MANY : 1);
        onMove({ x: at.x + way[0] * by, y: at.y + way[1] * by });
        event.preventDefault();
      }}
    >
      <circle r={22} className="fill-transparent" />
      <circle
        r={9}
        className="fill-yolk/70 stroke-black group-focus-visible:stroke-white group-focus-visible:[stroke-width:4]"
        strokeWidth={2}
      />
      <path d="M-17 0 H17 M0 -17 V17" className="stroke-black" strokeWidth={1.5} />
    </g>
  );
}

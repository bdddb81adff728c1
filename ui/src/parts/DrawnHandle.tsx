import { useRef } from "react";
import { figureOf, type Measure, scaleOf } from "../logic/measures";

/** A figure that is set in a drawing: between which it lies (as it is kept), and by which steps. */
export interface Handled {
  label: string;
  measure: Measure;
  range: readonly [number, number];
  step: number;
  value: number;
  onChange: (value: number) => void;
}

interface DrawnHandleProps {
  handled: Handled;
  /** Where it stands in the drawing, and along which of its sides it is dragged. */
  at: readonly [number, number];
  along: "x" | "y";
  /** The figure when it is dragged there along that side. */
  valueAt: (place: number) => number;
  /** Its side in the drawing's units: large enough for a fingertip. */
  size: number;
}

const PART: Record<string, number> = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 };
const MANY = 10;

/** A mark in a drawing that is dragged, or moved by the arrows; its figure follows the hand. */
export function DrawnHandle({ handled, at, along, valueAt, size }: DrawnHandleProps) {
  const { label, measure, range, step, value, onChange } = handled;
  const held = useRef<((event: React.PointerEvent) => number) | null>(null);
  const scale = scaleOf(measure);
  const figure = figureOf(measure, undefined);
  const set = (wanted: number) => {
    const next = Math.min(Math.max(wanted, range[0]), range[1]);
    if (Math.abs(next - value) > 1e-9) onChange(next);
  };
  const drag = (wanted: number) => {
    const steps = scale.step(step);
    set(scale.kept(Math.round(scale.of(wanted) / steps) * steps));
  };
  const middle = along === "x" ? at[0] : at[1];
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-orientation={along === "x" ? "horizontal" : "vertical"}
      aria-valuemin={range[0]}
      aria-valuemax={range[1]}
      aria-valuenow={Math.round(value * 10) / 10}
      aria-valuetext={`${figure.shown(value)} ${figure.unit ?? ""}`.trim()}
      className="group cursor-grab touch-none outline-none"
      transform={`translate(${at[0]} ${at[1]})${along === "y" ? " rotate(90)" : ""}`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        // The drawing is drawn anew, and to another scale, while it is dragged: the hand goes by
        // the scale that it took hold in.
        const units = event.currentTarget.ownerSVGElement?.getScreenCTM()?.a ?? 1;
        const from = along === "x" ? event.clientX : event.clientY;
        held.current = (now) =>
          valueAt(middle + ((along === "x" ? now.clientX : now.clientY) - from) / units);
      }}
      onPointerMove={(event) => {
        if (held.current && event.currentTarget.hasPointerCapture(event.pointerId))
          drag(held.current(event));
      }}
      onKeyDown={(event) => {
        const by = PART[event.key];
        if (by !== undefined) set(figure.moved(value, by * step * (event.shiftKey ? MANY : 1)));
        else if (event.key === "Home" || event.key === "End")
          onChange(event.key === "Home" ? range[0] : range[1]);
        else return;
        event.preventDefault();
      }}
    >
      <rect x={-size / 2} y={-size / 2} width={size} height={size} className="fill-transparent" />
      <path
        d={ARROWS}
        transform={`scale(${size / 36})`}
        className="fill-yolk stroke-ink group-focus-visible:stroke-enamel group-focus-visible:[stroke-width:3.5]"
        strokeWidth={1.5}
        strokeLinejoin="round"
      />
    </g>
  );
}

/** An arrow to both sides, in a box of 36. */
const ARROWS = "M-15 0 L-7 -8 V-3.5 H7 V-8 L15 0 L7 8 V3.5 H-7 V8 Z";

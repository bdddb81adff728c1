import type { Aim, Comes, Figure } from "../../logic/aim";
import { fine, span } from "../../logic/format";
import { DrawnHandle, type Handled } from "../DrawnHandle";
import { HandledDrawing } from "../HandledDrawing";
import { Dimension } from "../Ruler";
import { outlineOf } from "../SideView";

interface AimDrawingProps {
  now: Comes;
  /** What the nearest way comes to; as it is now while there is none. */
  then: Comes;
  aim: Aim;
  /** Given where a piece has a width of its own. */
  wide: boolean;
  onFigure: (figure: Figure, value: number) => void;
}

const WIDE_MM = [20, 200] as const;
const HIGH_MM = [2, 60] as const;

/** One piece from the side: as it comes out now, as it is wished, and as it would come out. */
export function AimDrawing({ now, then, aim, wide, onFigure }: AimDrawingProps) {
  const wish = {
    wide: aim.width_mm?.figure ?? then.width_mm,
    high: aim.height_mm?.figure ?? then.height_mm,
  };
  const reach = Math.max(now.width_mm, then.high_mm, wish.wide);
  const high = Math.max(now.height_mm, then.height_mm, wish.high);
  const side = Math.max(reach / 0.72, 90);
  const scale = side / 130;
  const text = 5.2 * scale;
  const handle = (figure: Figure, label: string, value: number): Handled => ({
    label,
    measure: "length",
    range: figure === "width_mm" ? WIDE_MM : HIGH_MM,
    step: figure === "width_mm" ? 1 : 0.5,
    value,
    onChange: (next) => onFigure(figure, next),
  });
  return (
    <HandledDrawing
      said={`From the side: now ${span(now.width_mm)} wide and ${fine(now.height_mm, 1)} high; it would be ${span(then.width_mm)} wide and ${fine(then.height_mm, 1)} high.`}
      viewBox={`${-side / 2} ${-high - 15 * scale} ${side} ${high + 21 * scale}`}
      className="w-full max-w-2xl"
      handles={
        <>
          {wide && (
            <DrawnHandle
              handled={handle("width_mm", "Wished width, in the drawing", wish.wide)}
              at={[wish.wide / 2, 0]}
              along="x"
              valueAt={(place) => 2 * place}
              size={9 * scale}
            />
          )}
          <DrawnHandle
            handled={handle("height_mm", "Wished height, in the drawing", wish.high)}
            at={[0, -wish.high]}
            along="y"
            valueAt={(place) => -place}
            size={9 * scale}
          />
        </>
      }
    >
      <path
        d={outlineOf(then.flat, then.width_mm, then.height_mm)}
        className="fill-blond stroke-amber"
        strokeWidth={0.6 * scale}
      />
      <path
        d={outlineOf(now.flat, now.width_mm, now.height_mm)}
        className="fill-none stroke-soft"
        strokeDasharray={`${1.5 * scale} ${1.2 * scale}`}
        strokeWidth={0.5 * scale}
      />
      {(aim.width_mm || aim.height_mm) && (
        <rect
          x={-wish.wide / 2}
          y={-wish.high}
          width={wish.wide}
          height={wish.high}
          className="fill-none stroke-enamel"
          strokeWidth={0.5 * scale}
        />
      )}
      <Band then={then} scale={scale} />
      {wide && (
        <Dimension
          from={[-wish.wide / 2, -high - 7 * scale]}
          to={[wish.wide / 2, -high - 7 * scale]}
          text={span(wish.wide)}
          fontSize={text}
        />
      )}
    </HandledDrawing>
  );
}

/** Between what eight pieces in ten come out, as a soft rim. */
function Band({ then, scale }: { then: Comes; scale: number }) {
  return (
    <g className="stroke-ink" strokeWidth={0.5 * scale}>
      <line x1={-then.high_mm / 2} x2={then.high_mm / 2} y1={0} y2={0} />
      {[-1, 1].map((way) => (
        <rect
          key={way}
          x={way < 0 ? -then.high_mm / 2 : then.low_mm / 2}
          width={(then.high_mm - then.low_mm) / 2}
          y={-then.height_mm}
          height={then.height_mm}
          stroke="none"
          className="fill-ink/15"
        />
      ))}
    </g>
  );
}

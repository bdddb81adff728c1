import type { Tray } from "../api/client";
import { fine, rulerUnit, span } from "../logic/format";
import { rulerMarks } from "../logic/marks";
import { DrawnHandle, type Handled } from "./DrawnHandle";
import { HandledDrawing } from "./HandledDrawing";
import { Dimension } from "./Ruler";

interface SideViewProps {
  tray: Pick<Tray, "raw" | "width" | "thickness">;
  /** How thick the raw piece is, where that is set: dragged at its upper edge. */
  thick?: Handled | undefined;
}

/** One piece from the side, raw and baked, standing on a ruler. */
export function SideView({ tray, thick }: SideViewProps) {
  const { raw, width, thickness } = tray;
  const reach = Math.max(width.middle_mm, raw.across_mm);
  const high = Math.max(raw.height_mm, thickness.height_mm);
  const side = Math.max(reach / 0.58, 60);
  const scale = side / 100;
  const text = 7.2 * scale;
  const [w, h] = [width.middle_mm, thickness.height_mm];
  const widthText = span(w);
  // On a narrow piece the figure stands under its line, which then needs room above the piece.
  const narrow = w <= widthText.length * text * 0.56 + 10;
  const dimension = -high - 6 * scale - (narrow ? text + 3 : 0);
  return (
    <figure>
      <HandledDrawing
        said={`From the side: raw ${span(raw.across_mm)} wide and ${span(raw.height_mm)} high, baked ${span(w)} wide and ${fine(h, 1)} high.`}
        viewBox={`${-reach / 2 - 0.1 * side} ${dimension - 10 * scale} ${side} ${-dimension + 26 * scale}`}
        className="w-full"
        handles={
          thick && (
            <DrawnHandle
              handled={thick}
              at={[-raw.across_mm / 4, -raw.height_mm]}
              along="y"
              valueAt={(place) => -place}
              size={10 * scale}
            />
          )
        }
      >
        <path
          d={outlineOf(raw.flat, w, h)}
          className="fill-blond stroke-amber"
          strokeWidth={0.8 * scale}
        />
        <RawOutline raw={raw} scale={scale} />
        <Dimension
          from={[-w / 2, dimension]}
          to={[w / 2, dimension]}
          text={widthText}
          fontSize={text}
        />
        <text
          x={w / 2 + 2 * scale}
          y={Math.min(-h / 2 + text * 0.35, -2 * scale)}
          fontSize={text}
          fontWeight={650}
          className="fill-enamel"
        >
          {fine(h, 1)}
        </text>
        <Scale from={-reach / 2 - 0.1 * side} side={side} zero={-w / 2} scale={scale} />
      </HandledDrawing>
      <figcaption className="text-center text-[0.9375rem] text-soft">
        {span(raw.across_mm)} raw (dashed), {span(w)} baked; ruler in {rulerUnit()}
      </figcaption>
    </figure>
  );
}

function RawOutline({ raw, scale }: { raw: Tray["raw"]; scale: number }) {
  const line = {
    className: "fill-none stroke-ink",
    strokeDasharray: `${2 * scale} ${1.5 * scale}`,
    strokeWidth: 0.7 * scale,
  };
  if (!raw.flat && raw.length_mm === null) {
    return (
      <ellipse cy={-raw.height_mm / 2} rx={raw.across_mm / 2} ry={raw.height_mm / 2} {...line} />
    );
  }
  return (
    <rect
      x={-raw.across_mm / 2}
      y={-raw.height_mm}
      width={raw.across_mm}
      height={raw.height_mm}
      rx={raw.length_mm === null ? 0.6 : raw.height_mm / 2}
      {...line}
    />
  );
}

interface ScaleProps {
  from: number;
  side: number;
  zero: number;
  scale: number;
}

/** A longer ruler has no room for the numbers of a fine one. */
const FINE_TO_MM = 160;

/** A ruler in centimetres or inches under the piece, its zero at the baked piece's left edge. */
function Scale({ from, side, zero, scale }: ScaleProps) {
  const length = from + side - zero - 4 * scale;
  const marks = rulerMarks(length, length > FINE_TO_MM ? "coarse" : "fine");
  return (
    <g className="stroke-ink" strokeWidth={0.6 * scale}>
      <line x1={from} x2={from + side} y1={0} y2={0} />
      {marks.map(({ mm }) => (
        <line key={mm} x1={zero + mm} x2={zero + mm} y1={0} y2={3 * scale} />
      ))}
      {marks
        .filter(({ number }) => number !== null)
        .map(({ mm, number }) => (
          <text
            key={mm}
            x={zero + mm}
            y={12 * scale}
            textAnchor="middle"
            fontSize={6.2 * scale}
            stroke="none"
            className="fill-ink"
          >
            {number}
          </text>
        ))}
    </g>
  );
}

/** The outline of a baked piece so wide and high, its foot in the middle at the origin. */
export const outlineOf = (flat: boolean, w: number, h: number): string =>
  flat ? disc(w, h) : dome(w, h);

const dome = (w: number, h: number): string =>
  `M${-w / 2} 0 C${-w / 2} ${-h * 0.75} ${-w * 0.36} ${-h} ${-w * 0.16} ${-h} H${w * 0.16} C${w * 0.36} ${-h} ${w / 2} ${-h * 0.75} ${w / 2} 0 Z`;

const disc = (w: number, h: number): string => {
  const r = Math.min(h * 0.35, w * 0.05);
  return `M${-w / 2} 0 V${-h + r} Q${-w / 2} ${-h} ${-w / 2 + r} ${-h} H${w / 2 - r} Q${w / 2} ${-h} ${w / 2} ${-h + r} V0 Z`;
};

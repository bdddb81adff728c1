import type { Tray } from "../../api/client";
import { distances } from "../../logic/distances";
import { span, spanBy } from "../../logic/format";
import { Dimension, Ruler } from "../Ruler";
import { PieceShape } from "./PieceShape";

type Layout = Tray["layouts"][number];

/** One sheet as it is laid out, to look at. */
export function Sheet({ tray, layout }: { tray: Tray; layout: Layout }) {
  const { sheet_width_mm: width, sheet_depth_mm: depth } = tray.kitchen;
  const [left, right, top, bottom] = [42, 66, 36, 40];
  const turned = layout.turned && !tray.footprint.is_round;
  return (
    <svg
      role="img"
      aria-label={describe(tray, layout)}
      viewBox={`${-left} ${-top} ${width + left + right} ${depth + top + bottom}`}
      className="max-h-[19.5rem] w-full"
    >
      <Ruler length={width} />
      <Ruler length={depth} down />
      <SheetEdge tray={tray} />
      {layout.centres.map(({ x, y }) => (
        <g key={`${x} ${y}`} transform={`translate(${x} ${y})${turned ? " rotate(90)" : ""}`}>
          <PieceShape tray={tray} meets={false} />
        </g>
      ))}
      <Distances tray={tray} layout={layout} />
    </svg>
  );
}

export function SheetEdge({ tray }: { tray: Tray }) {
  const { sheet_width_mm: width, sheet_depth_mm: depth, margin_mm: margin } = tray.kitchen;
  return (
    <>
      <rect
        width={width}
        height={depth}
        rx={6}
        className="fill-sheet stroke-ink"
        strokeWidth={1.4}
      />
      <rect
        x={margin}
        y={margin}
        width={width - 2 * margin}
        height={depth - 2 * margin}
        className="fill-none stroke-line"
        strokeDasharray="3 3"
        strokeWidth={0.8}
      />
    </>
  );
}

export function Distances({ tray, layout }: { tray: Tray; layout: Layout }) {
  const { sheet_width_mm: width, sheet_depth_mm: depth } = tray.kitchen;
  const first = layout.centres[0];
  const found = distances(layout.centres);
  if (!first || layout.pattern === "close") return null;
  return (
    <>
      <Dimension from={[0, depth + 14]} to={[first.x, depth + 14]} text={span(first.x)} />
      {found.across !== null && (
        <Dimension
          from={[first.x, depth + 14]}
          to={[first.x + found.across, depth + 14]}
          text={span(found.across)}
        />
      )}
      <Dimension from={[width + 8, 0]} to={[width + 8, first.y]} text={span(first.y)} />
      {found.down !== null && (
        <Dimension
          from={[width + 8, first.y]}
          to={[width + 8, first.y + found.down]}
          text={span(found.down)}
        />
      )}
    </>
  );
}

/** A sheet in words, for who does not see it. */
export function describe(tray: Tray, layout: Layout): string {
  const first = layout.centres[0];
  const found = distances(layout.centres);
  const parts = [
    `Sheet ${spanBy(tray.kitchen.sheet_width_mm, tray.kitchen.sheet_depth_mm)}`,
    `${layout.centres.length} pieces, ${layout.pattern}: ${layout.rows.join(", ")}`,
    `raw ${span(tray.raw.across_mm)}, baked ${span(tray.width.middle_mm)}, at most ${span(tray.width.high_mm)} in nine of ten`,
  ];
  if (first)
    parts.push(`first middle ${span(first.x)} from the left and ${span(first.y)} from the top`);
  if (found.across !== null) parts.push(`${span(found.across)} from middle to middle across`);
  if (found.down !== null) parts.push(`${span(found.down)} from row to row`);
  return `${parts.join("; ")}.`;
}

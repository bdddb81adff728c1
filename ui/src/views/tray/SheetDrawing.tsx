import { useState } from "react";
import type { Tray } from "../../api/client";
import { cm, grams } from "../../app/format";
import { Dimension, Ruler } from "../../parts/Ruler";
import { distances } from "./distances";

/** The sheet to scale: raw pieces, baked outlines, the band's rim, and how to lay them out. */
export function SheetDrawing({ tray, children }: { tray: Tray; children: React.ReactNode }) {
  const [shown, setShown] = useState(0);
  const { kitchen, layouts, yields } = tray;
  const layout = layouts[Math.min(shown, layouts.length - 1)];
  if (!layout) return null;
  const { sheet_width_mm: width, sheet_depth_mm: depth, margin_mm: margin } = kitchen;
  const [left, right, top, bottom] = [42, 66, 36, 40];
  const found = distances(layout.centres);
  const first = layout.centres[0];
  const alike = yields.trays.filter((n) => n === layout.centres.length).length;

  return (
    <figure className="min-w-0">
      <svg
        role="img"
        aria-label={describe(tray, layout, found)}
        viewBox={`${-left} ${-top} ${width + left + right} ${depth + top + bottom}`}
        className="max-h-[24rem] w-full"
      >
        <Ruler length={width} />
        <Ruler length={depth} down />
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
        {layout.centres.map(({ x, y }) => (
          <PieceOnSheet key={`${x} ${y}`} tray={tray} x={x} y={y} />
        ))}
        <Leftover tray={tray} x={width + 30} y={depth - 34} />
        {first && (
          <Dimension from={[0, depth + 14]} to={[first.x, depth + 14]} text={`${cm(first.x)} cm`} />
        )}
        {first && found.across !== null && (
          <Dimension
            from={[first.x, depth + 14]}
            to={[first.x + found.across, depth + 14]}
            text={`${cm(found.across)} cm`}
          />
        )}
        {first && <Dimension from={[width + 8, 0]} to={[width + 8, first.y]} text={cm(first.y)} />}
        {first && found.down !== null && (
          <Dimension
            from={[width + 8, first.y]}
            to={[width + 8, first.y + found.down]}
            text={cm(found.down)}
          />
        )}
      </svg>
      <figcaption className="flex flex-col gap-2 text-[0.9375rem]">
        <span className="flex flex-wrap justify-between gap-x-6">
          <Legend />
          <span>
            {layout.pattern}, {alike} {alike === 1 ? "tray" : "trays"} like this
          </span>
        </span>
        <span className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
          {children}
          <span className="flex flex-wrap items-center justify-end gap-2">
            {layouts.length > 1 &&
              layouts.map((each, n) => (
                <button
                  key={each.centres.length}
                  type="button"
                  aria-pressed={n === shown}
                  className="press min-h-9 px-2 aria-pressed:bg-ink aria-pressed:text-paper"
                  onClick={() => setShown(n)}
                >
                  {each.centres.length} on a tray
                </button>
              ))}
          </span>
        </span>
      </figcaption>
    </figure>
  );
}

/** The dough that is left over, as a ball beside the sheet, to the same scale. */
function Leftover({ tray, x, y }: { tray: Tray; x: number; y: number }) {
  const { leftover_g } = tray.yields;
  const r = 5 * Math.cbrt((6 * leftover_g) / tray.density_g_cm3 / Math.PI);
  return (
    <g>
      <circle
        cx={x}
        cy={y - r}
        r={r}
        className="fill-raw stroke-dark"
        strokeDasharray="2 2"
        strokeWidth={0.8}
      />
      <text x={x} y={y + 15} textAnchor="middle" fontSize={13} className="fill-ink">
        {grams(leftover_g)} g
      </text>
      <text x={x} y={y + 30} textAnchor="middle" fontSize={13} className="fill-ink">
        left
      </text>
    </g>
  );
}

function PieceOnSheet({ tray, x, y }: { tray: Tray; x: number; y: number }) {
  const { raw, width, footprint } = tray;
  if (raw.length_mm === null) {
    return (
      <g>
        <circle cx={x} cy={y} r={width.high_mm / 2} className="fill-amber/30" />
        <circle
          cx={x}
          cy={y}
          r={width.middle_mm / 2}
          className="fill-blond stroke-amber"
          strokeWidth={1.2}
        />
        <circle
          cx={x}
          cy={y}
          r={raw.width_mm / 2}
          className={raw.flat ? "fill-none stroke-dark" : "fill-raw stroke-dark"}
          strokeDasharray="2 2"
          strokeWidth={0.8}
        />
      </g>
    );
  }
  const box = (across: number, down: number, round: number) => ({
    x: x - across / 2,
    y: y - down / 2,
    width: across,
    height: down,
    rx: round,
  });
  const grown = raw.length_mm + 0.5 * (width.middle_mm - raw.width_mm);
  return (
    <g>
      <rect {...box(footprint.across_mm, footprint.down_mm, 24)} className="fill-amber/30" />
      <rect
        {...box(grown, width.middle_mm, 24)}
        className="fill-blond stroke-amber"
        strokeWidth={1.2}
      />
      <rect
        {...box(raw.length_mm, raw.width_mm, 20)}
        className="fill-raw stroke-dark"
        strokeDasharray="2 2"
        strokeWidth={0.8}
      />
    </g>
  );
}

function Legend() {
  return (
    <span className="flex flex-wrap items-center gap-x-4">
      <Swatch className="fill-raw stroke-dark" dashed text="raw" />
      <Swatch className="fill-blond stroke-amber" text="baked" />
      <Swatch className="fill-amber/30" text="one in ten is wider than this rim" />
    </span>
  );
}

function Swatch({
  className,
  text,
  dashed,
}: {
  className: string;
  text: string;
  dashed?: boolean;
}) {
  return (
    <span className="flex items-center gap-1.5">
      <svg aria-hidden="true" width="18" height="18" viewBox="0 0 18 18">
        <circle
          cx="9"
          cy="9"
          r="7.5"
          className={className}
          strokeDasharray={dashed ? "2 2" : undefined}
        />
      </svg>
      {text}
    </span>
  );
}

function describe(
  tray: Tray,
  layout: Tray["layouts"][number],
  found: ReturnType<typeof distances>,
): string {
  const first = layout.centres[0];
  const parts = [
    `Sheet ${cm(tray.kitchen.sheet_width_mm)} by ${cm(tray.kitchen.sheet_depth_mm)} cm`,
    `${layout.centres.length} pieces, ${layout.pattern}: ${layout.rows.join(", ")}`,
    `raw ${cm(tray.raw.width_mm)} cm, baked ${cm(tray.width.middle_mm)} cm, at most ${cm(tray.width.high_mm)} cm in nine of ten`,
  ];
  if (first) parts.push(`first middle ${cm(first.x)} cm in and ${cm(first.y)} cm down`);
  if (found.across !== null) parts.push(`${cm(found.across)} cm from middle to middle across`);
  if (found.down !== null) parts.push(`${cm(found.down)} cm from row to row`);
  return `${parts.join("; ")}.`;
}

import { useState } from "react";
import type { Tray } from "../../api/client";
import { fine, mass } from "../../logic/format";
import { DrawnHandle, type Handled } from "../../parts/DrawnHandle";
import { HandledDrawing } from "../../parts/HandledDrawing";
import { Distances, describe, SheetEdge } from "../../parts/making/Sheet";
import { Ruler } from "../../parts/Ruler";
import { Term } from "../../parts/Term";
import { PieceOnSheet } from "./PieceOnSheet";
import { type Placed, usePlaced } from "./usePlaced";

interface SheetDrawingProps {
  /** None until it is foreseen, or where it cannot be. */
  tray: Tray | undefined;
  /** On paper: nothing to press. */
  plain?: boolean;
  /** The gap that is asked for between two rims; dragged between the first two pieces. */
  gap?: Handled;
  /** What the sheet is set to; stays in its place whether there is a drawing or not. */
  children: React.ReactNode;
}

/** The sheet to scale: raw pieces, baked outlines, the band's rim, and how to lay them out. */
export function SheetDrawing({ tray, plain = false, gap, children }: SheetDrawingProps) {
  const [shown, setShown] = useState(0);
  const layouts = tray?.layouts ?? [];
  const layout = layouts[Math.min(shown, layouts.length - 1)];
  const placed = usePlaced(tray, layout);
  const alike = tray?.yields.trays.filter((n) => n === layout?.centres.length).length;

  return (
    <figure className="min-w-0">
      {tray && layout && <Drawn tray={tray} layout={layout} placed={placed} gap={gap} />}
      <figcaption className="flex flex-col gap-2 text-[0.9375rem]">
        {layout && (
          <span className="flex flex-wrap justify-between gap-x-6">
            <Legend />
            <span>
              {PATTERNS[layout.pattern]}, {alike} {alike === 1 ? "tray" : "trays"} like this
            </span>
          </span>
        )}
        {layout && <Moved placed={placed} />}
        <span className="flex flex-wrap items-end gap-x-4 gap-y-2">
          {children}
          {layout && !plain && (
            <Presses
              placed={placed}
              layouts={layouts}
              movable={tray?.says.portioned === ""}
              shown={shown}
              onShow={setShown}
            />
          )}
        </span>
      </figcaption>
    </figure>
  );
}

interface DrawnProps {
  tray: Tray;
  layout: Tray["layouts"][number];
  placed: Placed;
  gap: Handled | undefined;
}

function Drawn({ tray, layout, placed, gap }: DrawnProps) {
  const { sheet_width_mm: width, sheet_depth_mm: depth } = tray.kitchen;
  const [left, right, top, bottom] = [42, 66, 36, 40];
  const box = {
    ref: placed.svg,
    viewBox: `${-left} ${-top} ${width + left + right} ${depth + top + bottom}`,
    className: "max-h-[19.5rem] w-full",
  };
  const drawn = (
    <>
      <Ruler length={width} />
      <Ruler length={depth} down />
      <SheetEdge tray={tray} />
      {placed.points.map((point) => (
        <PieceOnSheet
          key={point.place}
          tray={tray}
          point={point}
          turned={layout.turned}
          placed={placed}
        />
      ))}
      <Leftover tray={tray} x={width + 30} y={depth - 34} />
      {!placed.moved && <Distances tray={tray} layout={layout} />}
    </>
  );
  if (placed.moving)
    return (
      // biome-ignore lint/a11y/useSemanticElements: a drawing is no fieldset
      <svg
        role="group"
        aria-label="Pieces on the sheet: choose one, move it with the arrows"
        {...box}
      >
        {drawn}
      </svg>
    );
  return (
    <HandledDrawing
      said={describe(tray, layout)}
      {...box}
      handles={gap && <Gap tray={tray} layout={layout} gap={gap} />}
    >
      {drawn}
    </HandledDrawing>
  );
}

interface GapProps {
  tray: Tray;
  layout: Tray["layouts"][number];
  gap: Handled;
}

/** How near two rims may come: from that of the first piece on, or between the first two rows. */
function Gap({ tray, layout, gap }: GapProps) {
  const { footprint } = tray;
  const first = layout.centres[0];
  if (!first || layout.centres.length < 2) return null;
  const beside = layout.centres.some(({ x, y }) => y === first.y && x > first.x);
  const [across, down] = layout.turned
    ? [footprint.down_mm, footprint.across_mm]
    : [footprint.across_mm, footprint.down_mm];
  const rim = beside ? first.x + across / 2 : first.y + down / 2;
  const to = rim + gap.value;
  const half = (beside ? down : across) / 3;
  return (
    <g>
      {[rim, to].map((edge, n) => (
        <line
          key={n === 0 ? "rim" : "gap"}
          x1={beside ? edge : first.x - half}
          x2={beside ? edge : first.x + half}
          y1={beside ? first.y - half : edge}
          y2={beside ? first.y + half : edge}
          className="stroke-enamel"
          strokeWidth={0.9}
          strokeDasharray="3 2"
        />
      ))}
      <DrawnHandle
        handled={gap}
        at={beside ? [to, first.y] : [first.x, to]}
        along={beside ? "x" : "y"}
        valueAt={(place) => place - rim}
        size={36}
      />
    </g>
  );
}

interface PressesProps {
  placed: Placed;
  layouts: Tray["layouts"];
  /** Pieces of a slab lie where it is scored. */
  movable: boolean;
  shown: number;
  onShow: (place: number) => void;
}

function Presses({ placed, layouts, movable, shown, onShow }: PressesProps) {
  return (
    <span className="ml-auto flex flex-wrap items-center justify-end gap-2">
      {movable && (
        <button
          type="button"
          aria-pressed={placed.moving}
          className="press min-h-9 px-2 aria-pressed:bg-ink aria-pressed:text-paper"
          onClick={placed.toggle}
        >
          Move pieces
        </button>
      )}
      {layouts.length > 1 &&
        layouts.map((each, n) => (
          <button
            key={each.centres.length}
            type="button"
            aria-pressed={n === shown}
            className="press min-h-9 px-2 aria-pressed:bg-ink aria-pressed:text-paper"
            onClick={() => onShow(n)}
          >
            {each.centres.length} on a tray
          </button>
        ))}
    </span>
  );
}

const PATTERNS: Record<Tray["layouts"][number]["pattern"], string> = {
  rows: "rows",
  "staggered across": "staggered across",
  "staggered down": "staggered down",
  nested: "rows that reach into each other",
  close: "closer than rows: lay out by the paper template",
};

/** What was moved by hand, and what is wrong with it. */
function Moved({ placed }: { placed: Placed }) {
  if (!placed.moving) return null;
  const worst = placed.check?.meetings[0];
  const off = placed.check?.off_sheet.length ?? 0;
  return (
    <span className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <span role="status">
        {worst ? (
          <strong className="text-caution">
            Look: {placed.check?.meetings.length}{" "}
            {placed.check?.meetings.length === 1 ? "pair of rims" : "pairs of rims"} would meet, by
            up to {fine(worst.over_mm, 0)}.
          </strong>
        ) : off > 0 ? (
          <strong className="text-caution">
            Look: {off === 1 ? "one piece runs" : `${off} pieces run`} over the edge.
          </strong>
        ) : (
          `Drag a piece, or choose it and press the arrows (${fine(1)}, with Shift ${fine(10)}); Delete takes it off.`
        )}
      </span>
      {placed.moved && (
        <button type="button" className="underline" onClick={placed.reset}>
          Put them back
        </button>
      )}
    </span>
  );
}

/** No ball is drawn larger than there is room for beside the sheet. */
const BESIDE_MM = 28;

/** The dough that is left over, as a ball beside the sheet, to the same scale. */
function Leftover({ tray, x, y }: { tray: Tray; x: number; y: number }) {
  const { leftover_g } = tray.yields;
  const ball = 5 * Math.cbrt((6 * leftover_g) / tray.density_g_cm3 / Math.PI);
  const r = Math.min(ball, BESIDE_MM);
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
        {mass(leftover_g)}
      </text>
      <text x={x} y={y + 30} textAnchor="middle" fontSize={13} className="fill-ink">
        left
      </text>
    </g>
  );
}

function Legend() {
  return (
    <span className="flex flex-wrap items-center gap-x-4">
      <Swatch className="fill-raw stroke-dark" dashed text="raw" />
      <Swatch className="fill-blond stroke-amber" text="baked" />
      <Swatch
        className="fill-amber/30"
        text={<Term of="rim">one in ten is wider than this rim</Term>}
      />
    </span>
  );
}

function Swatch({
  className,
  text,
  dashed,
}: {
  className: string;
  text: React.ReactNode;
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

import type { Axis, Day, Row } from "../../logic/day";
import { length, when } from "../../logic/format";

export const WIDTH = 900;
export const LEFT = 116;
export const RIGHT = 14;

/** The marks of the clock, and the breaks where nobody is needed for long. */
export function TimeAxis({ axis, day }: { axis: Axis; day: Day }) {
  const marks = axis.marks();
  return (
    <g>
      {axis.stretches
        .filter((s) => s.broken)
        .map((s) => (
          <g key={s.from}>
            <rect
              x={s.x}
              y={24}
              width={s.width}
              height={day.height - 30}
              className="fill-paper stroke-line"
              strokeDasharray="3 3"
            />
            <text
              x={s.x + s.width / 2}
              y={40}
              textAnchor="middle"
              fontSize={12.5}
              className="fill-soft"
            >
              {length((s.to - s.from) / 60_000)}
            </text>
          </g>
        ))}
      {marks.map((ms, n) => {
        return (
          <g key={ms}>
            <line
              x1={axis.x(ms)}
              x2={axis.x(ms)}
              y1={24}
              y2={day.height - 6}
              className="stroke-line"
            />
            <text
              x={Math.min(axis.x(ms), WIDTH - 1)}
              y={17}
              // The last mark may stand at the very edge.
              textAnchor={axis.x(ms) > WIDTH - 24 ? "end" : "middle"}
              fontSize={14}
              fontWeight={600}
              className="fill-ink"
            >
              {when(ms, marks[n - 1] ?? ms)}
            </text>
          </g>
        );
      })}
    </g>
  );
}

const WASH = { plain: "fill-sheet", cold: "fill-cold", oven: "fill-wash" } as const;

export function PlaceRow({ row }: { row: Row }) {
  return (
    <g>
      <rect
        x={LEFT}
        y={row.top}
        width={WIDTH - LEFT - RIGHT}
        height={row.height}
        className={`${WASH[row.wash]} stroke-line`}
      />
      <text
        data-row={row.key}
        x={LEFT - 8}
        y={row.top + row.height / 2 + 5}
        textAnchor="end"
        fontSize={14}
        fontWeight={600}
        className="cursor-pointer fill-ink"
      >
        {row.label}
      </text>
    </g>
  );
}

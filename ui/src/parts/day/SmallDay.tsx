import { useMemo } from "react";
import type { Activity, BakingSession } from "../../api/client";
import { Axis, layDay } from "../../logic/day";
import { clock, when } from "../../logic/format";
import { Hatches, hatchOf, hueOf } from "../DoughMark";
import { useWidth } from "../useWidth";

const [WIDTH, LEFT, RIGHT, TOP] = [790, 62, 22, 24];
const [HANDS, SHELF, LANE, GAP] = [30, 20, 6, 5];

interface SmallDayProps {
  session: BakingSession;
  now?: number;
}

/** The day in little: whose hands are busy, what lies cold, in the oven and on the rack, and when. */
export function SmallDay({ session, now }: SmallDayProps) {
  const [frame, width] = useWidth<HTMLDivElement>(WIDTH);
  const { day, axis } = useMemo(() => {
    const laid = layDay(session);
    return { day: laid, axis: new Axis(session, laid, LEFT, width - LEFT - RIGHT) };
  }, [session, width]);
  const lane = (key: string) => day.lanes.get(key) ?? 0;
  const of = (...kinds: Activity["kind"][]) =>
    session.activities.filter((a) => kinds.includes(a.kind));
  const most = (kind: string) =>
    Math.max(0, ...[...day.lanes].filter(([key]) => key.startsWith(kind)).map(([, n]) => n + 1));
  const rows: Row[] = [];
  let top = TOP;
  const add = (label: string, height: number, spans: Omit<Span, "height">[], each = height) => {
    rows.push({ label, top, height, spans: spans.map((s) => ({ ...s, height: each })) });
    top += height + GAP;
  };
  session.workers.forEach((name, n) => {
    const own = session.activities.filter((a) => a.hands && (a.who ?? 0) === n);
    add(
      n === 0 ? "hands" : name,
      HANDS,
      own.map((a) => ({ a, down: 0 })),
    );
  });
  const cold = of("chill").map((a) => ({ a, down: lane(`cold ${a.key}`) * LANE, quiet: true }));
  if (cold.length > 0) add("cold", most("cold ") * LANE + 4, cold, LANE - 1);
  session.ovens.forEach((shelves, oven) => {
    const baked = of("bake").filter((a) => (a.oven ?? 1) === oven + 1);
    const height = shelves > 2 ? 14 : SHELF;
    const spans = baked.map((a) => ({ a, down: ((a.shelf ?? 1) - 1) * height }));
    add(session.ovens.length > 1 ? `oven ${oven + 1}` : "oven", shelves * height, spans, height);
  });
  const rack = of("cool", "set", "finish").map((a) => ({
    a,
    down: lane(`rack ${a.tray}`) * LANE,
    quiet: true,
  }));
  if (rack.length > 0) add("rack", most("rack ") * LANE + 4, rack, LANE - 1);
  const marks = axis.marks();
  return (
    <div ref={frame}>
      <svg
        role="img"
        aria-label={`From ${when(day.from, now ?? day.from)} to ${clock(session.finish_at)}: ${session.trays.length} trays. The Plan screen has the same in words.`}
        viewBox={`0 0 ${width} ${top}`}
        className="w-full"
      >
        <Hatches letters={session.doughs.map((d) => d.letter)} />
        {marks.map((ms, n) => (
          <g key={ms}>
            <line x1={axis.x(ms)} x2={axis.x(ms)} y1={19} y2={top - GAP} className="stroke-line" />
            <text
              x={axis.x(ms)}
              y={14}
              textAnchor={axis.x(ms) > width - 30 ? "end" : "middle"}
              fontSize={14}
              className="fill-ink"
            >
              {when(ms, marks[n - 1] ?? ms)}
            </text>
          </g>
        ))}
        {rows.map((row) => (
          <g key={row.label}>
            <text
              x={LEFT - 8}
              y={row.top + row.height / 2 + 5}
              textAnchor="end"
              fontSize={14}
              fontWeight={650}
              className="fill-ink"
            >
              {row.label.length > 8 ? `${row.label.slice(0, 7)}…` : row.label}
            </text>
            <rect
              x={LEFT}
              y={row.top}
              width={width - LEFT - RIGHT}
              height={row.height}
              className="fill-none stroke-line"
            />
            {row.spans.map(({ a, down, height, quiet }) => (
              <rect
                key={a.key}
                x={axis.x(a.start_at)}
                y={row.top + down + (quiet ? 2 : 0)}
                width={Math.max(axis.x(a.end_at) - axis.x(a.start_at) - 0.5, 1.5)}
                height={height}
                fill={a.dough === null ? "var(--color-soft)" : fillOf(a.dough, quiet)}
                fillOpacity={quiet ? 0.4 : 1}
              />
            ))}
          </g>
        ))}
        {now !== undefined && now > day.from && now < day.to && (
          <line
            x1={axis.x(now)}
            x2={axis.x(now)}
            y1={19}
            y2={top - GAP}
            className="stroke-yolk"
            strokeWidth={3.5}
          />
        )}
      </svg>
    </div>
  );
}

interface Span {
  a: Activity;
  down: number;
  height: number;
  quiet?: boolean;
}

interface Row {
  label: string;
  top: number;
  height: number;
  spans: Span[];
}

const fillOf = (letter: string, quiet = false) => (quiet ? hueOf(letter) : hatchOf(letter));

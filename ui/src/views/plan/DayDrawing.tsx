import { useState } from "react";
import type { Activity, BakingSession } from "../../api/client";
import { clock, length } from "../../app/format";
import { type Day, LANE, layDay, type Row, timeMarks } from "./day";

const WIDTH = 900;
const LEFT = 116;
const RIGHT = 14;

interface DayProps {
  session: BakingSession;
  now?: number;
}

/** The day: places from top to bottom, time from left to right, each tray a ribbon through them. */
export function DayDrawing({ session, now }: DayProps) {
  const [only, setOnly] = useState<string | null>(null);
  const day = layDay(session);
  const scale = (WIDTH - LEFT - RIGHT) / Math.max(day.to - day.from, 1);
  const x = (ms: number) => LEFT + (ms - day.from) * scale;
  const trays = session.trays.map((t) => t.name);
  return (
    <figure>
      <svg
        role="img"
        aria-label={`The day from ${clock(day.from)} to ${clock(day.to)}: ${trays.length} trays over ${session.sheets} sheets and ${session.shelves} oven shelves. The same by the clock stands below.`}
        viewBox={`0 0 ${WIDTH} ${day.height}`}
        className="w-full"
      >
        <defs>
          <pattern
            id="hatch-a"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="6" height="6" className="fill-enamel" />
            <line
              x1="0"
              x2="0"
              y1="0"
              y2="6"
              className="stroke-paper"
              strokeWidth="1.2"
              opacity="0.35"
            />
          </pattern>
        </defs>
        {[...day.rows.values()].map((row) => (
          <PlaceRow key={row.key} row={row} />
        ))}
        {timeMarks(day.from, day.to).map((ms) => (
          <g key={ms}>
            <line x1={x(ms)} x2={x(ms)} y1={24} y2={day.height - 6} className="stroke-line" />
            <text
              x={x(ms)}
              y={17}
              textAnchor="middle"
              fontSize={14}
              fontWeight={600}
              className="fill-ink"
            >
              {clock(ms)}
            </text>
          </g>
        ))}
        {session.activities
          .filter((a) => a.tray === null)
          .map((a) => (
            <DoughBlock key={a.key} activity={a} day={day} x={x} />
          ))}
        {trays.map((tray) => (
          <g key={tray} opacity={only === null || only === tray ? 1 : 0.15}>
            <TrayRibbon tray={tray} session={session} day={day} x={x} />
          </g>
        ))}
        <line
          x1={x(day.to)}
          x2={x(day.to)}
          y1={24}
          y2={day.height - 6}
          className="stroke-enamel"
          strokeWidth={2.5}
        />
        {now !== undefined && now > day.from && now < day.to && (
          <line
            x1={x(now)}
            x2={x(now)}
            y1={22}
            y2={day.height - 4}
            className="stroke-yolk"
            strokeWidth={3.5}
          />
        )}
      </svg>
      <figcaption className="mt-2 flex flex-wrap items-center gap-2 text-[0.9375rem]">
        <span className="text-soft">Show</span>
        {[null, ...trays].map((tray) => (
          <button
            key={tray ?? "all"}
            type="button"
            aria-pressed={only === tray}
            className="press min-h-8 px-2.5 aria-pressed:bg-ink aria-pressed:text-paper"
            onClick={() => setOnly(tray)}
          >
            {tray ?? "all trays"}
          </button>
        ))}
        <span className="ml-auto text-soft">
          heavier: what holds the finish up; ▾ turn the tray
        </span>
      </figcaption>
    </figure>
  );
}

const WASH = { plain: "fill-sheet", cold: "fill-cold", oven: "fill-wash" } as const;

function PlaceRow({ row }: { row: Row }) {
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
        x={LEFT - 8}
        y={row.top + row.height / 2 + 5}
        textAnchor="end"
        fontSize={14}
        fontWeight={600}
        className="fill-ink"
      >
        {row.label}
      </text>
    </g>
  );
}

interface PartProps {
  day: Day;
  x: (ms: number) => number;
}

interface BlockProps {
  from: number;
  to: number;
  top: number;
  height: number;
  text: string;
  second?: string;
  heavy?: boolean;
  quiet?: boolean;
}

const wide = (text: string, size: number): number => text.length * size * 0.58 + 6;

/** A block of time; its words stand in it only where they fit. */
function Block({ from, to, top, height, text, second, heavy, quiet }: BlockProps) {
  const width = Math.max(to - from, 2);
  const inner = quiet ? "fill-ink" : "fill-paper";
  return (
    <g>
      <rect
        x={from}
        y={top}
        width={width}
        height={height}
        fill={quiet ? undefined : "url(#hatch-a)"}
        className={quiet ? "fill-enamel/20" : heavy ? "stroke-ink" : undefined}
        strokeWidth={heavy ? 2.5 : 0}
      />
      {width >= wide(text, 13) && (
        <text
          x={from + width / 2}
          y={top + (second && width >= wide(second, 12) ? height * 0.42 : height / 2 + 4.5)}
          textAnchor="middle"
          fontSize={13}
          fontWeight={650}
          className={inner}
        >
          {text}
        </text>
      )}
      {second && width >= wide(second, 12) && (
        <text
          x={from + width / 2}
          y={top + height * 0.82}
          textAnchor="middle"
          fontSize={12.5}
          className={inner}
        >
          {second}
        </text>
      )}
    </g>
  );
}

/** Mixing, chilling and heating belong to no tray. */
function DoughBlock({ activity: a, day, x }: PartProps & { activity: Activity }) {
  const words = `${a.kind} ${length((a.end_at - a.start_at) / 60_000)}`;
  const row = day.rows.get(a.kind === "mix" ? "hands" : a.kind === "chill" ? "cold" : "shelf1");
  if (!row) return null;
  if (a.kind === "heat") {
    const y = row.top + row.height / 2;
    const text = `oven on ${clock(a.start_at)}`;
    return (
      <g>
        <line
          x1={x(a.start_at)}
          x2={x(a.end_at)}
          y1={y}
          y2={y}
          className="stroke-soft"
          strokeWidth={2}
          strokeDasharray="2 4"
        />
        {x(a.end_at) - x(a.start_at) > wide(text, 12.5) && (
          <text x={x(a.start_at) + 2} y={y - 6} fontSize={12.5} className="fill-ink">
            {text}
          </text>
        )}
      </g>
    );
  }
  return (
    <Block
      from={x(a.start_at)}
      to={x(a.end_at)}
      top={row.top + 3}
      height={row.height - 6}
      text={x(a.end_at) - x(a.start_at) >= wide(words, 13) ? words : a.kind}
      heavy={a.critical}
      quiet={a.kind === "chill"}
    />
  );
}

/** One tray on its way: portioned, in the oven, resting, on the rack. */
function TrayRibbon({
  tray,
  session,
  day,
  x,
}: PartProps & { tray: string; session: BakingSession }) {
  const own = session.activities.filter((a) => a.tray === tray);
  const of = (kind: string) => own.filter((a) => a.kind === kind);
  const hands = day.rows.get("hands");
  const [portion] = of("portion");
  const [rack] = of("rack");
  const [cool] = of("cool");
  const bench = day.rows.get(`sheet${portion?.sheet ?? 1}`);
  const rackRow = day.rows.get("rack");
  if (!hands || !portion || !rack || !cool || !bench || !rackRow) return null;
  const rackY = rackRow.top + 4 + (day.rackLane.get(tray) ?? 0) * LANE;
  const heavy = own.some((a) => a.kind === "bake" && a.critical);
  const stroke = `stroke-enamel fill-none`;
  const bakes = of("bake");
  return (
    <g strokeWidth={heavy ? 3 : 1.4}>
      {own
        .filter((a) => a.hands)
        .map((a) => (
          <rect
            key={a.key}
            x={x(a.start_at)}
            y={hands.top + 3}
            width={Math.max(x(a.end_at) - x(a.start_at) - 0.6, 2)}
            height={hands.height - 6}
            fill="url(#hatch-a)"
            className={a.critical ? "stroke-ink" : undefined}
            strokeWidth={a.critical ? 1.6 : 0}
          />
        ))}
      {bakes.map((bake, n) => {
        const shelf = day.rows.get(`shelf${bake.shelf ?? 1}`);
        if (!shelf) return null;
        const before = n === 0 ? portion : of("slice")[0];
        const turn = of("turn")[n];
        const middle = shelf.top + shelf.height / 2;
        const waits = x(before?.end_at ?? bake.start_at);
        const benchY = bench.top + bench.height / 2;
        const leaves = n === bakes.length - 1 ? rack : of("slice")[0];
        const to = n === bakes.length - 1 ? rackY + 6 : benchY;
        return (
          <g key={bake.key}>
            <path
              d={`M${waits} ${benchY} H${x(bake.start_at) - 1} C${x(bake.start_at) + 5} ${benchY} ${x(bake.start_at) - 5} ${middle} ${x(bake.start_at) + 1} ${middle}`}
              className={stroke}
            />
            <path
              d={`M${x(bake.end_at)} ${middle} C${x(bake.end_at) + 7} ${middle} ${x(bake.end_at) - 3} ${to} ${x(bake.end_at) + 5} ${to} H${x(leaves?.start_at ?? bake.end_at)}`}
              className={stroke}
              strokeDasharray="3 2.5"
            />
            <Block
              from={x(bake.start_at)}
              to={x(bake.end_at)}
              top={shelf.top + 3}
              height={shelf.height - 6}
              text={tray}
              second={`${Math.round((bake.end_at - bake.start_at) / 60_000)} min`}
              heavy={bake.critical}
            />
            {turn && (
              <path
                d={`M${x(turn.start_at) - 5} ${shelf.top - 1} h10 l-5 8 z`}
                className="fill-ink"
                strokeWidth={0}
              />
            )}
          </g>
        );
      })}
      <Block
        from={x(portion.start_at)}
        to={x(portion.end_at)}
        top={bench.top + 3}
        height={bench.height - 6}
        text={tray}
        heavy={portion.critical}
      />
      {of("slice").map((slice) => (
        <Block
          key={slice.key}
          from={x(slice.start_at)}
          to={x(slice.end_at)}
          top={bench.top + 3}
          height={bench.height - 6}
          text="slice"
          heavy={slice.critical}
        />
      ))}
      {of("sheet").map((a) => (
        <line
          key={a.key}
          x1={x(a.start_at)}
          x2={x(a.end_at)}
          y1={bench.top + bench.height - 5}
          y2={bench.top + bench.height - 5}
          className="stroke-soft"
          strokeWidth={2}
          strokeDasharray="1 3"
        />
      ))}
      <Block
        from={x(cool.start_at)}
        to={x(cool.end_at)}
        top={rackY}
        height={14}
        text={`${tray} cooling`}
        quiet
      />
    </g>
  );
}

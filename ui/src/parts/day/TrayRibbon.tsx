import { memo } from "react";
import type { Activity, BakingSession } from "../../api/client";
import type { Day } from "../../logic/day";
import { hatchOf, hueOf } from "../DoughMark";
import { Block } from "./Block";

interface RibbonProps {
  tray: string;
  session: BakingSession;
  day: Day;
  x: (ms: number) => number;
  handle: (a: Activity) => object;
  /** The threads from place to place, which lie under all blocks; or the blocks. */
  threads?: boolean;
}

/** One tray on its way: portioned, in the oven, resting, on the rack, finished. */
export const TrayRibbon = memo(function TrayRibbon(props: RibbonProps) {
  const { tray, session, day, x, handle, threads = false } = props;
  const own = session.activities.filter((a) => a.tray === tray);
  const of = (kind: Activity["kind"]) => own.filter((a) => a.kind === kind);
  const letter = tray.charAt(0);
  const [portion] = of("portion");
  const [rack] = of("rack");
  const [cool] = of("cool");
  const bench = day.rows.get(`sheet${portion?.sheet ?? 1}`);
  const rackRow = day.rows.get("rack");
  if (!portion || !rack || !cool || !bench || !rackRow) return null;
  const rackY = rackRow.top + 4 + (day.lanes.get(`rack ${tray}`) ?? 0) * day.rackLane;
  const heavy = own.some((a) => a.kind === "bake" && a.critical);
  const line = { stroke: hueOf(letter), fill: "none" };
  const bakes = of("bake");
  const stays = bakes.map((bake, n) => {
    const shelf = day.rows.get(`oven${bake.oven ?? 1}shelf${bake.shelf ?? 1}`);
    if (!shelf) return null;
    const before = n === 0 ? portion : of("slice")[0];
    const turn = of("turn").find((a) => a.round === bake.round);
    const moved = turn?.to_shelf
      ? day.rows.get(`oven${bake.oven ?? 1}shelf${turn.to_shelf}`)
      : undefined;
    const last = moved ?? shelf;
    const middle = shelf.top + shelf.height / 2;
    const leavesAt = last.top + last.height / 2;
    const waits = x(before?.end_at ?? bake.start_at);
    const benchY = bench.top + bench.height / 2;
    const leaves = n === bakes.length - 1 ? rack : of("slice")[0];
    const to = n === bakes.length - 1 ? rackY + 6 : benchY;
    if (threads) {
      return (
        <g key={bake.key}>
          <path
            d={`M${waits} ${benchY} H${x(bake.start_at) - 1} C${x(bake.start_at) + 5} ${benchY} ${x(bake.start_at) - 5} ${middle} ${x(bake.start_at) + 1} ${middle}`}
            style={line}
          />
          <path
            d={`M${x(bake.end_at)} ${leavesAt} C${x(bake.end_at) + 7} ${leavesAt} ${x(bake.end_at) - 3} ${to} ${x(bake.end_at) + 5} ${to} H${x(leaves?.start_at ?? bake.end_at)}`}
            style={line}
            strokeDasharray="3 2.5"
          />
        </g>
      );
    }
    return (
      <g key={bake.key} data-key={bake.key}>
        <Block
          from={x(bake.start_at)}
          to={x(moved && turn ? turn.start_at : bake.end_at)}
          top={shelf.top + 3}
          height={shelf.height - 6}
          texts={[tray]}
          letter={letter}
          second={`${Math.round((bake.end_at - bake.start_at) / 60_000)} min`}
          heavy={bake.critical}
        />
        {moved && turn && (
          <Block
            from={x(turn.start_at)}
            to={x(bake.end_at)}
            top={moved.top + 3}
            height={moved.height - 6}
            texts={[tray]}
            letter={letter}
            heavy={bake.critical}
          />
        )}
        {turn && !moved && (
          <path
            d={`M${x(turn.start_at) - 5} ${shelf.top - 1} h10 l-5 8 z`}
            className="fill-ink"
            strokeWidth={0}
          />
        )}
      </g>
    );
  });
  if (threads) return <g strokeWidth={heavy ? 3 : 1.4}>{stays}</g>;
  return (
    <g strokeWidth={heavy ? 3 : 1.4}>
      {own
        .filter((a) => a.hands)
        .map((a) => (
          <HandJob key={a.key} job={a} day={day} x={x} letter={letter} handle={handle} />
        ))}
      {stays}
      <g data-key={portion.key} {...handle(portion)}>
        <Block
          from={x(portion.start_at)}
          to={x(portion.end_at)}
          top={bench.top + 2}
          height={bench.height - 4}
          texts={[tray]}
          letter={letter}
          heavy={portion.critical}
        />
      </g>
      {of("slice").map((slice) => (
        <g key={slice.key} data-key={slice.key}>
          <Block
            from={x(slice.start_at)}
            to={x(slice.end_at)}
            top={bench.top + 2}
            height={bench.height - 4}
            texts={["slice"]}
            letter={letter}
            heavy={slice.critical}
          />
        </g>
      ))}
      {of("sheet").map((a) => (
        <line
          key={a.key}
          x1={x(a.start_at)}
          x2={x(a.end_at)}
          y1={bench.top + bench.height - 4}
          y2={bench.top + bench.height - 4}
          className="stroke-soft"
          strokeWidth={2}
          strokeDasharray="1 3"
        />
      ))}
      {[cool, ...of("finish"), ...of("set")].map((a) => (
        <g key={a.key} data-key={a.key}>
          <Block
            from={x(a.start_at)}
            to={x(a.end_at)}
            top={rackY}
            height={day.rackLane - 4}
            texts={
              a.kind === "cool" ? [`${tray} cooling`, tray] : [a.kind === "set" ? "sets" : "finish"]
            }
            letter={letter}
            quiet={a.kind !== "finish"}
          />
        </g>
      ))}
    </g>
  );
});

interface HandProps {
  job: Activity;
  day: Day;
  x: (ms: number) => number;
  letter: string;
  handle: (a: Activity) => object;
}

function HandJob({ job, day, x, letter, handle }: HandProps) {
  const hands = day.rows.get(`hands${job.who ?? 0}`);
  if (!hands) return null;
  const { pause_from_at: off, pause_to_at: again } = job;
  const parts =
    off !== null && again !== null
      ? [
          [job.start_at, off],
          [again, job.end_at],
        ]
      : [[job.start_at, job.end_at]];
  return (
    <g data-key={job.key} {...handle(job)}>
      {parts.map(([from = 0, to = 0]) => (
        <rect
          key={from}
          x={x(from)}
          y={hands.top + 3}
          width={Math.max(x(to) - x(from) - 0.6, 2)}
          height={hands.height - 6}
          fill={hatchOf(letter)}
          className={job.critical ? "stroke-ink" : undefined}
          strokeWidth={job.critical ? 1.6 : 0}
        />
      ))}
    </g>
  );
}

import { memo, useCallback, useMemo, useRef, useState } from "react";
import type { Activity, BakingSession } from "../../api/client";
import { Axis, type Day, layDay } from "../../logic/day";
import { clock, dial, length } from "../../logic/format";
import { Hatches } from "../DoughMark";
import { Block, wide } from "./Block";
import { LEFT, PlaceRow, RIGHT, TimeAxis, WIDTH } from "./DayFrame";
import { Picked } from "./Picked";
import { TrayRibbon } from "./TrayRibbon";

/** Asks for a job to begin at another time. */
export type OnPin = (job: string, startAt: number) => void;

const noHandle = () => ({});

interface DayProps {
  session: BakingSession;
  now?: number;
  /** Drawn on to that moment, where it lies behind the finish. */
  until?: number;
  only?: string | null;
  onOnly?: (tray: string | null) => void;
  onPin?: OnPin;
}

/** The day: places from top to bottom, time from left to right, each tray a ribbon through them. */
export const DayDrawing = memo(function DayDrawing({
  session,
  now,
  until,
  onPin,
  ...shown
}: DayProps) {
  const [own, setOwn] = useState<string | null>(null);
  const only = shown.only === undefined ? own : shown.only;
  const setOnly = shown.onOnly ?? setOwn;
  // Pressing a tray moves nothing: the ribbons need not be drawn again.
  const { day, axis, x } = useMemo(() => {
    const laid = layDay(session, until);
    const made = new Axis(session, laid, LEFT, WIDTH - LEFT - RIGHT);
    return { day: laid, axis: made, x: (ms: number) => made.x(ms) };
  }, [session, until]);
  const trays = session.trays.map((t) => t.name);
  const seen = (letter: string | null) =>
    only === null || letter === null || only.charAt(0) === letter;
  const [picked, setPicked] = useState<string | null>(null);
  const [place, setPlace] = useState<string | null>(null);
  const pick = (event: React.MouseEvent<SVGSVGElement>) => {
    const target = event.target as SVGElement;
    const row = target.closest<SVGElement>("[data-row]")?.dataset.row;
    if (row) {
      setPlace(row === place ? null : row);
      setPicked(null);
      return;
    }
    const key = target.closest<SVGElement>("[data-key]")?.dataset.key;
    if (key && !drag.dragged()) press(key);
  };
  const press = (key: string) => {
    const activity = session.activities.find((a) => a.key === key);
    if (!activity) return;
    const again = activity.key === picked;
    setPicked(again ? null : activity.key);
    setOnly(again ? null : activity.tray);
  };
  const drag = useDrag(axis, onPin, (key) => press(key));
  return (
    <figure>
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: the choices below and the run sheet do the same */}
      <svg
        role="img"
        onClick={pick}
        aria-label={`The day from ${clock(day.from)} to ${clock(day.to)}: ${trays.length} trays of ${session.doughs.length === 1 ? "one dough" : `${session.doughs.length} doughs`} over ${session.sheets} sheets and ${session.shelves} oven shelves. The same by the clock stands below.`}
        viewBox={`0 0 ${WIDTH} ${day.height}`}
        className="w-full touch-pan-y select-none"
        {...drag.frame}
      >
        <Hatches letters={session.doughs.map((d) => d.letter)} />
        {[...day.rows.values()].map((row) => (
          <PlaceRow key={row.key} row={row} />
        ))}
        <TimeAxis axis={axis} day={day} />
        {session.activities
          .filter((a) => a.tray === null)
          .map((a) => (
            <g key={a.key} data-key={a.key} opacity={seen(a.dough) ? 1 : 0.15} {...drag.handle(a)}>
              <DoughBlock activity={a} day={day} x={x} />
            </g>
          ))}
        {trays.map((tray) => (
          <g key={tray} opacity={only === null || only === tray ? 1 : 0.15}>
            <TrayRibbon tray={tray} session={session} day={day} x={x} handle={noHandle} threads />
          </g>
        ))}
        {trays.map((tray) => (
          <g
            key={tray}
            opacity={only === null || only === tray ? 1 : 0.12}
            className="cursor-pointer"
          >
            <TrayRibbon tray={tray} session={session} day={day} x={x} handle={drag.handle} />
          </g>
        ))}
        {place !== null &&
          [...day.rows.values()]
            .filter((row) => row.key !== place)
            .map((row) => (
              <rect
                key={row.key}
                x={LEFT}
                y={row.top}
                width={WIDTH - LEFT - RIGHT}
                height={row.height}
                className="pointer-events-none fill-paper"
                opacity={0.82}
              />
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
        {drag.at !== null && (
          <g className="pointer-events-none">
            <line
              x1={x(drag.at)}
              x2={x(drag.at)}
              y1={22}
              y2={day.height - 4}
              className="stroke-ink"
              strokeDasharray="4 3"
              strokeWidth={2}
            />
            <text x={x(drag.at) + 5} y={day.height - 10} fontSize={15} fontWeight={700}>
              {clock(drag.at)}
            </text>
          </g>
        )}
      </svg>
      <figcaption className="mt-2 flex flex-wrap items-center gap-1.5 text-[0.9375rem]">
        <span className="text-soft">Show</span>
        {[null, ...trays].map((tray) => (
          <button
            key={tray ?? "all"}
            type="button"
            aria-pressed={only === tray}
            className="press min-h-8 px-2 aria-pressed:bg-ink aria-pressed:text-paper"
            onClick={() => setOnly(tray)}
          >
            {tray ?? "all trays"}
          </button>
        ))}
        <select
          aria-label="Show a place"
          className="min-h-8"
          value={place ?? ""}
          onChange={(event) => setPlace(event.target.value || null)}
        >
          <option value="">all places</option>
          {[...day.rows.values()].map((row) => (
            <option key={row.key} value={row.key}>
              {row.label}
            </option>
          ))}
        </select>
        <span className="ml-auto text-soft">
          heavier: what holds the finish up; ▾ turn{onPin ? "; drag a job of the hands" : ""}
        </span>
      </figcaption>
      <Picked
        session={session}
        activity={session.activities.find((a) => a.key === picked)}
        place={place === null ? undefined : day.rows.get(place)}
      />
    </figure>
  );
});

/** Dragging a job along the time axis; let go, it is pinned there. */
function useDrag(axis: Axis, onPin: OnPin | undefined, onPress: (job: string) => void) {
  const [held, setHeld] = useState<{ job: string; grip: number; at: number } | null>(null);
  const moved = useRef(false);
  const time = (event: React.PointerEvent<SVGSVGElement>): number => {
    const box = event.currentTarget.getBoundingClientRect();
    return axis.at(((event.clientX - box.left) / box.width) * WIDTH);
  };
  const pins = onPin !== undefined;
  const handle = useCallback(
    (a: Activity) =>
      pins && a.may_be_pinned
        ? {
            className: "cursor-ew-resize",
            "data-drag": a.key,
            onPointerDown: (event: React.PointerEvent<SVGElement>) => {
              const frame = event.currentTarget.ownerSVGElement;
              if (!frame) return;
              const box = frame.getBoundingClientRect();
              const at = axis.at(((event.clientX - box.left) / box.width) * WIDTH);
              frame.setPointerCapture(event.pointerId);
              moved.current = false;
              setHeld({ job: a.key, grip: at - a.start_at, at: a.start_at });
            },
          }
        : {},
    [axis, pins],
  );
  return {
    /** Whether what ends now was a drag and no press. */
    dragged: () => {
      const was = moved.current;
      moved.current = false;
      return was;
    },
    at: held && moved.current ? held.at : null,
    handle,
    frame: held
      ? {
          onPointerMove: (event: React.PointerEvent<SVGSVGElement>) => {
            const at = Math.round((time(event) - held.grip) / 60_000) * 60_000;
            if (at !== held.at) moved.current = true;
            setHeld({ ...held, at });
          },
          onPointerUp: () => {
            if (moved.current) onPin?.(held.job, held.at);
            else onPress(held.job);
            setHeld(null);
          },
          onPointerCancel: () => setHeld(null),
        }
      : {},
  };
}

interface PartProps {
  activity: Activity;
  day: Day;
  x: (ms: number) => number;
}

/** Mixing, parts, chilling and heating belong to no tray. */
function DoughBlock({ activity: a, day, x }: PartProps) {
  const minutes = length((a.end_at - a.start_at) / 60_000);
  const letter = a.dough ?? "A";
  if (a.kind === "heat") return <Heat activity={a} day={day} x={x} />;
  if (a.kind === "chill" || a.kind === "temper" || a.kind === "wait") {
    const row = day.rows.get("cold");
    if (!row || a.kind !== "chill") return null;
    const lane = day.lanes.get(`cold ${a.key}`) ?? 0;
    return (
      <Block
        from={x(a.start_at)}
        to={x(a.end_at)}
        top={row.top + 4 + lane * day.coldLane}
        height={day.coldLane - 3}
        texts={[
          `${letter} ${a.cold === "thaws" ? "thaws" : "chills"} ${minutes}`,
          `${letter} ${minutes}`,
          letter,
        ]}
        letter={letter}
        heavy={a.critical}
        quiet
      />
    );
  }
  const row = day.rows.get(`hands${a.who ?? 0}`);
  // What softens or cools on the bench takes no hands.
  if (!row || !a.hands) return null;
  const own: Partial<Record<string, string>> = {
    ready: "get ready",
    form: "shape",
    fetch: "take out",
    take: "take out",
    part: a.what,
    freeze: "wrap",
    wash: "wash up",
  };
  const words = own[a.kind] ?? a.kind;
  return (
    <Block
      from={x(a.start_at)}
      to={x(a.end_at)}
      top={row.top + 3}
      height={row.height - 6}
      texts={
        a.dough === null
          ? [`clear up, ${minutes}`, "clear up"]
          : [`${words} ${letter}, ${minutes}`, `${words} ${letter}`, letter]
      }
      letter={letter}
      heavy={a.critical}
      quiet={a.dough === null}
    />
  );
}

/** The oven getting hot, or hotter, or cooler. */
function Heat({ activity: a, day, x }: PartProps) {
  const row = day.rows.get(`oven${a.oven ?? 1}shelf1`);
  if (!row) return null;
  const y = row.top + 9;
  const text = `${dial(a.dial_c ?? 0)} from ${clock(a.start_at)}`;
  return (
    <g>
      <line
        x1={x(a.start_at)}
        x2={x(a.end_at)}
        y1={y + 4}
        y2={y + 4}
        className="stroke-ink"
        strokeWidth={2}
        strokeDasharray="2 4"
      />
      {x(a.end_at) - x(a.start_at) > wide(text, 12) && (
        <text x={x(a.start_at) + 2} y={y} fontSize={12} className="fill-ink">
          {text}
        </text>
      )}
    </g>
  );
}

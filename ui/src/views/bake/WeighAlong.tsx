import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Activity, BakingSession, Schemas } from "../../api/client";
import type { BakeEvent } from "../../logic/events";
import { mass, percent, span } from "../../logic/format";
import { scaleOf, typedIn } from "../../logic/measures";
import { weighingQuery } from "../../logic/queries";
import { alongWith } from "../../logic/waiting";
import { useWaiting } from "../../parts/said/outbox";
import { type ScaleShows, useScale, useTare } from "../../parts/useDevices";
import { useKeys } from "./companion";
import { KeyCap } from "./Happenings";

type Along = Schemas["AlongOut"];

interface WeighAlongProps {
  session: BakingSession;
  job: Activity;
  busy: boolean;
  onEvent: (event: BakeEvent) => void;
}

/** The next thing to weigh, with its target, beside a job in which something is weighed. */
export function WeighAlong({ session, job, busy, onEvent }: WeighAlongProps) {
  const wanted = job.may_be_weighed;
  const [open, setOpen] = useState(false);
  const along = useQuery(weighingQuery(session.id, job.key, wanted && open));
  const waiting = useWaiting();
  if (!wanted) return null;
  return (
    <section
      aria-label="Weigh along"
      data-weighing={open ? "" : undefined}
      className="relative border-y border-line py-2"
    >
      <button
        type="button"
        className={open ? "absolute top-2 right-0 underline" : "press min-h-12 text-lg"}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? "weigh no longer" : "Weigh along"}
      </button>
      {open && along.error && <p className="text-caution">{along.error.message}</p>}
      {open && along.data && (
        <Next
          along={alongWith(along.data, waiting, session.id)}
          busy={busy}
          onWeighed={(mass, what) =>
            onEvent({ kind: "weighed", activity: job.key, grams: mass, what })
          }
          onScaled={(what) => onEvent({ kind: "scaled", activity: job.key, what })}
        />
      )}
    </section>
  );
}

interface NextProps {
  along: Along;
  busy: boolean;
  onWeighed: (grams: number, what: string | null) => void;
  onScaled: (what: string) => void;
}

function Next({ along, busy, onWeighed, onScaled }: NextProps) {
  const scale = useScale();
  const tare = useTare();
  const next = along.ingredients.find((one) => one.more_g > 0);
  const target = along.portions?.target_g ?? next?.more_g;
  const shown = scale && !scale.fault && scale.steady && !scale.overloaded ? scale.grams : null;
  const keep = (weighed: number) => {
    if (busy || !(weighed >= 0.05)) return;
    onWeighed(weighed + (next?.weighed_g ?? 0), next?.key ?? null);
    if (scale) tare.mutate();
  };
  useKeys({ Enter: shown != null && target !== undefined ? () => keep(shown) : undefined });
  const offer = along.poured && <TooMuch poured={along.poured} busy={busy} onScaled={onScaled} />;
  if (target === undefined) {
    return (
      <div className="mt-2 flex flex-col gap-2">
        <p className="text-xl">All of it is in the bowl.</p>
        {offer}
      </div>
    );
  }
  return (
    <div className="mt-2 flex flex-col gap-2">
      {offer}
      <p className="text-2xl">
        {next ? (
          <>
            <strong>{next.name}</strong>, {mass(next.more_g)}
            {next.weighed_g === null ? "" : " more"}
          </>
        ) : (
          <>
            Portion {(along.portions?.weighed_g.length ?? 0) + 1} of {along.wanted},{" "}
            <strong>{mass(target)}</strong>
          </>
        )}
      </p>
      {scale ? (
        <div className="flex items-end gap-4">
          <Bar shows={scale} target={target} offBy={along.off_by} />
          <button
            type="button"
            className="press press-main min-h-16 text-xl whitespace-nowrap"
            disabled={busy || shown == null || shown < 0.05}
            onClick={() => shown != null && keep(shown)}
          >
            {next ? "It is in" : "Next portion"} <KeyCap>Enter</KeyCap>
          </button>
        </div>
      ) : (
        <ByHand key={next?.key ?? along.portions?.weighed_g.length} onKeep={keep} busy={busy} />
      )}
      {along.portions && <HowEven along={along} portions={along.portions} />}
      {next && <Rest along={along} />}
    </div>
  );
}

interface TooMuchProps {
  poured: NonNullable<Along["poured"]>;
  busy: boolean;
  onScaled: (what: string) => void;
}

/** More went in than was wanted: the rest of the dough can be made to go with it. */
function TooMuch({ poured, busy, onScaled }: TooMuchProps) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-caution pl-3">
      <p className="text-xl">
        Too much {poured.name.toLowerCase()} went in. All else × {poured.times.toFixed(2)} goes with
        it
        {poured.pieces > 0 && `, about ${poured.pieces} pieces more`}; or take it out again.
      </p>
      <button
        type="button"
        className="press min-h-11"
        disabled={busy}
        onClick={() => onScaled(poured.key)}
      >
        Make the rest go with it
      </button>
    </div>
  );
}

/** How far the scale is from the target: full at it, and over in red. */
function Bar({ shows, target, offBy }: { shows: ScaleShows; target: number; offBy: number }) {
  const weighed = shows.grams ?? 0;
  const share = Math.min(Math.max(weighed / target, 0), 1.25) / 1.25;
  const over = weighed > target * (1 + offBy);
  const words = shows.overloaded
    ? "too much on the scale"
    : over
      ? `${mass(weighed - target)} too much`
      : weighed >= target * (1 - offBy)
        ? "right"
        : `${mass(target - weighed)} to go`;
  return (
    <div className="min-w-0 flex-1">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <strong className="text-5xl" data-figure="scale">
          {shows.fault ? "–" : mass(weighed)}
        </strong>
        <span className={`text-xl ${over || shows.fault ? "text-caution" : ""}`} role="status">
          {shows.fault ?? words}
          {!shows.fault && !shows.steady && ", settling…"}
        </span>
      </p>
      <svg
        aria-hidden="true"
        viewBox="0 0 100 6"
        preserveAspectRatio="none"
        className="mt-1 h-6 w-full border border-ink bg-sheet"
      >
        <rect width={100 * share} height={6} className={over ? "fill-caution" : "fill-enamel"} />
        <line x1={80} x2={80} y1={0} y2={6} className="stroke-ink" strokeWidth={0.6} />
      </svg>
    </div>
  );
}

/** Without a scale of its own: the mass is typed. */
function ByHand({ onKeep, busy }: { onKeep: (grams: number) => void; busy: boolean }) {
  const [text, setText] = useState("");
  const weighed = typedIn("mass", text);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (Number.isFinite(weighed)) onKeep(weighed);
      }}
    >
      <label className="flex flex-col text-[0.9375rem] text-soft">
        The scale shows, in {scaleOf("mass").unit}
        <input
          className="w-32 text-2xl font-semibold text-ink"
          inputMode="decimal"
          autoComplete="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button
        type="submit"
        className="press min-h-11"
        disabled={busy || !Number.isFinite(weighed) || weighed < 0.05}
      >
        Write it down
      </button>
    </form>
  );
}

function HowEven({ along, portions }: { along: Along; portions: NonNullable<Along["portions"]> }) {
  if (portions.mean_g === null) return null;
  return (
    <div className="text-lg">
      <p>
        Mean <strong>{mass(portions.mean_g)}</strong>
        {portions.cv !== null && <>, uneven by {percent(100 * portions.cv)} %</>}
        {along.width_mm !== null && along.planned_mm !== null && (
          <>
            ; they come out at <strong>{span(along.width_mm)}</strong> instead of{" "}
            {span(along.planned_mm)}
          </>
        )}
        .
      </p>
      {portions.off.length > 0 && (
        <p>
          {portions.off
            .map((off) => `Portion ${off.number} is too ${off.how}: ${mass(off.grams)}`)
            .join("; ")}
          .
        </p>
      )}
    </div>
  );
}

/** What is in already, and what comes after. */
function Rest({ along }: { along: Along }) {
  const later = along.ingredients.filter((one) => one.weighed_g === null).slice(1, 4);
  const last = along.ingredients.filter((one) => one.weighed_g !== null).at(-1);
  return (
    <p className="text-[0.9375rem] text-soft">
      {along.times > 1 && `All × ${along.times.toFixed(2)}. `}
      {last && `In: ${last.name} ${mass(last.weighed_g ?? 0)}. `}
      {later.length > 0 && `Then ${later.map((one) => one.name.toLowerCase()).join(", ")}.`}
    </p>
  );
}

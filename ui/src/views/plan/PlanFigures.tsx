import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import type { BakingSession } from "../../api/client";
import { length, when } from "../../logic/format";
import { isJob, wordsOf } from "../../logic/jobs";
import { CAUSE, howGood, inTime, plural, SOON_MS, tooLate } from "../../logic/planWords";
import { byHandQuery } from "../../logic/queries";
import { nextQuarter } from "../../logic/wish";
import { Term } from "../../parts/Term";

interface PlanStartProps {
  plan: BakingSession;
  busy: boolean;
  onReadyBy: (at: number) => void;
  onStart: (asPlanned: boolean) => void;
  onStop: () => void;
}

/** When all is cold, with what it begins, what is wrong with it, and the next step. */
export function PlanStart({ plan, busy, onReadyBy, onStart, onStop }: PlanStartProps) {
  const late = plan.ready_by === null ? 0 : Math.ceil((plan.finish_at - plan.ready_by) / 60_000);
  const first = plan.activities.find(isJob);
  return (
    <aside aria-label="The plan in figures" className="flex flex-col gap-3">
      <div aria-live="polite">
        <p className="text-5xl font-bold" data-figure="finish">
          {when(plan.finish_at, plan.now)}
        </p>
        <p className="text-lg">
          cold and ready; begin {when(plan.start_at, plan.now)},{" "}
          <strong className="whitespace-nowrap">
            {length((plan.finish_at - plan.start_at) / 60_000)}
          </strong>{" "}
          in all.
        </p>
        {first && (
          <p className="mt-1">
            First: <strong>{wordsOf(first).title}</strong>
          </p>
        )}
        <ForOccasion plan={plan} />
        <p className="flex min-h-9 items-center gap-3 text-[0.9375rem] text-soft">
          {busy && "Planning…"}
          {!busy && plan.searching && (
            <>
              Looking for a better plan…
              <button type="button" className="press min-h-8 px-2" onClick={onStop}>
                This will do
              </button>
            </>
          )}
        </p>
        {late > 0 && (
          <div className="mt-2 border-l-4 border-caution pl-3">
            <p>
              <strong className="text-caution">Too late:</strong> {tooLate(plan, late)} The nearest
              plan that works is this one; or see what would help.
            </p>
            <button
              type="button"
              className="press mt-1 min-h-9 px-2"
              disabled={busy}
              onClick={() => onReadyBy(nextQuarter(plan.finish_at))}
            >
              Ready by {when(nextQuarter(plan.finish_at), plan.now)} instead
            </button>
          </div>
        )}
        {plan.overs.map((over) => (
          <p key={over} className="mt-2 border-l-4 border-caution pl-3">
            <strong className="text-caution">Waits too long:</strong> {over}
          </p>
        ))}
        {plan.said && (
          <p className="mt-2 border-l-4 border-caution pl-3">
            <strong className="text-caution">Not so:</strong> {plan.said}
          </p>
        )}
        {plan.stale && (
          <p className="mt-2 border-l-4 border-caution pl-3">
            <strong className="text-caution">Out of date:</strong> the dough, its tray or the book
            has changed since this plan was made.
          </p>
        )}
      </div>
      <div className="flex flex-col gap-2">
        {plan.start_at > plan.now + SOON_MS && (
          <button
            type="button"
            className="press press-main min-h-12 text-lg"
            onClick={() => onStart(true)}
          >
            Start at {when(plan.start_at, plan.now)}, as planned
          </button>
        )}
        <button
          type="button"
          className={`press min-h-12 text-lg ${plan.start_at > plan.now + SOON_MS ? "" : "press-main"}`}
          onClick={() => onStart(false)}
        >
          Start baking now
        </button>
      </div>
    </aside>
  );
}

/** How good the plan is, beside what a clever hand would do, and what holds it up. */
export const PlanFigures = memo(function PlanFigures({ plan }: { plan: BakingSession }) {
  return (
    <section aria-label="How good the plan is" className="flex flex-col gap-5">
      <div>
        <p>
          {plan.proven ? (
            <>
              No plan for these trays {inTime(plan) ? "begins later" : "ends sooner"}:{" "}
              <Term of="proven">proven</Term>.
            </>
          ) : (
            howGood(plan)
          )}
        </p>
        <p className="text-[0.9375rem]">
          The oven is opened <strong>{plan.openings}</strong> times and set anew{" "}
          <strong>{plan.heat_changes}</strong> {plan.heat_changes === 1 ? "time" : "times"}.
        </p>
        <ByHand plan={plan} />
        <Learnt learnt={plan.learnt} />
      </div>
      <HoldUps holdUps={plan.hold_ups} />
    </section>
  );
});

/** How long before the hour of its occasion all is ready. */
function ForOccasion({ plan }: { plan: BakingSession }) {
  const occasion = plan.wish?.occasion;
  if (!occasion || plan.ready_by !== null) return null;
  const spare = Math.floor((occasion.at - plan.finish_at) / 60_000);
  const table = `on the table ${when(occasion.at, plan.now)}`;
  if (spare >= 0) {
    return (
      <p className="mt-1">
        {occasion.name ? `${occasion.name}, ${table}` : `For what is ${table}`}: ready{" "}
        <strong>{length(spare)}</strong> before.
      </p>
    );
  }
  return (
    <p className="mt-2 border-l-4 border-caution pl-3">
      <strong className="text-caution">Too late:</strong> it is to be {table}, and is ready{" "}
      {length(-spare)} after. Give more hours to bake in, ask for fewer pieces, or see what would
      help.
    </p>
  );
}

/** What of the plan's minutes was learnt, and from how much. */
function Learnt({ learnt }: { learnt: BakingSession["learnt"] }) {
  const from = [
    ["in the oven from", learnt.bakes, "bake"],
    ["of your hands from", learnt.jobs, "job"],
    ["in the fridge from", learnt.felt, "dough that you felt"],
  ] as const;
  const known = from.filter(([, count]) => count > 0);
  if (known.length === 0) return null;
  const said = known.map(([what, count, of]) => `${what} ${count} ${plural(of, count)}`);
  return <p className="text-[0.9375rem]">Minutes {said.join(", ")}.</p>;
}

function HoldUps({ holdUps }: { holdUps: BakingSession["hold_ups"] }) {
  const most = Math.max(1, ...holdUps.map((h) => h.minutes));
  return (
    <section aria-label="What holds it up">
      <h2 className="heading">
        <Term of="holdsUp">What holds it up</Term>{" "}
        <span className="text-[0.9375rem] font-normal text-soft">minutes</span>
      </h2>
      <ul className="mt-2">
        {holdUps.map((hold) => (
          <li key={hold.cause} className="border-b border-line py-1.5">
            <span className="flex items-baseline justify-between gap-3">
              <span className="leading-tight">
                {CAUSE[hold.cause]}
                {hold.trays.length > 0 && (
                  <span className="text-soft"> {hold.trays.join(", ")}</span>
                )}
              </span>
              <strong>{hold.minutes}</strong>
            </span>
            <svg
              aria-hidden="true"
              viewBox="0 0 100 4"
              preserveAspectRatio="none"
              className="h-1 w-full"
            >
              <rect width={(100 * hold.minutes) / most} height={4} className="fill-enamel" />
            </svg>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[0.9375rem] text-soft">
        The chain of steps that wait for each other; it is drawn heavier.
      </p>
    </section>
  );
}

/** When a clever baker without a plan would be done. */
function ByHand({ plan }: { plan: BakingSession }) {
  const found = useQuery(byHandQuery(plan));
  if (!found.data) return null;
  const at = found.data.finish_at;
  const later = at === null ? 0 : Math.round((at - plan.finish_at) / 60_000);
  return (
    <p className="text-[0.9375rem]" data-figure="by-hand">
      {at === null
        ? "By hand, in order and tray by tray, something would wait too long."
        : later <= 0
          ? "By hand, with a good head for it, it takes as long."
          : `By hand, with a good head for it, about ${when(at, plan.now)}: ${length(later)} later.`}
    </p>
  );
}
